package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;
import weftex.store.database.CopySpec;
import weftex.store.database.SshHost;
import weftex.store.database.Tls;
import weftex.store.file.Folder;
import weftex.store.file.Hands;
import weftex.store.file.SftpFolder;
import weftex.store.testing.SshServer;

/** Live's folder is on the machine behind the line, and its files go over that very line. */
class FilesOverSshTest {
  private static final int LARGE = 3_000_000;

  @TempDir Path folder;
  private ServerSite site;
  private SshServer ssh;

  @BeforeEach
  void liveBehindALine() throws Exception {
    assumeTrue(SshServer.isHere(), "there is no sshd on this machine");
    site = new ServerSite(folder);
    ssh =
        new SshServer(Files.createDirectory(folder.resolve("ssh")), "Subsystem sftp internal-sftp");
    for (String name : List.of("harbour-brae", "mv-selkie", "ramp", "festival", "winter-sea")) {
      write("live", name + ".jpg", name.getBytes());
      write("staging", name + ".jpg", name.getBytes());
    }
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        model: %s
        copies:
          staging:
            mariadb: {host: 127.0.0.1, port: %d, database: %s, user: root}
            prefix: skf_
            address: https://staging.skerrow.example
            folder: web/staging
          live:
            ssh: {host: 127.0.0.1, user: %s, port: %d, key: ssh/user, known-hosts: ssh/known}
            mariadb: {port: %d, database: %s, user: root}
            prefix: skf_
            address: https://skerrow.example
            folder: %s
        """
            .formatted(
                DemoSite.MODEL,
                site.server.port(),
                site.staging,
                System.getProperty("user.name"),
                ssh.port(),
                site.server.port(),
                site.live,
                folder.resolve("web/live")));
    site.server.sql(site.staging, Files.readString(folder.resolve("become-staging.sql")));
  }

  @AfterEach
  void endTheServer() throws Exception {
    if (ssh != null) {
      ssh.close();
    }
  }

  private Path file(String copy, String name) {
    return folder.resolve("web").resolve(copy).resolve("media").resolve(name);
  }

  private void write(String copy, String name, byte[] content) throws IOException {
    Files.createDirectories(file(copy, name).getParent());
    Files.write(file(copy, name), content);
  }

  private Map<String, String> files() throws Exception {
    Map<String, String> files = new TreeMap<>();
    try (Stream<Path> all = Files.walk(folder.resolve("web/live"))) {
      for (Path one : (Iterable<Path>) all::iterator) {
        files.put(
            folder.relativize(one).toString(),
            Files.isDirectory(one)
                ? "folder"
                : java.util.Arrays.hashCode(Files.readAllBytes(one))
                    + " "
                    + Files.getLastModifiedTime(one).toInstant().getEpochSecond()
                    + " "
                    + Files.getPosixFilePermissions(one));
      }
    }
    return files;
  }

  private Program.Ran done(String... arguments) {
    Program.Ran ran = new Program(folder).run(arguments);
    assertThat(ran.status()).as(ran.out() + ran.err()).isLessThan(2);
    return ran;
  }

  private static byte[] large(int seed) {
    byte[] bytes = new byte[LARGE];
    new Random(seed).nextBytes(bytes);
    return bytes;
  }

  @Test
  void aPageWithItsPicturesIsMergedAndTakenBackOverIt() throws Exception {
    Files.setPosixFilePermissions(
        file("live", "ramp.jpg"), PosixFilePermissions.fromString("rw-rw-r--"));
    assertThat(done("mark").out()).contains("Files that rows name: 5, ");
    site.week();
    write("staging", "winter-timetable.jpg", large(1));
    write("live", "winter-timetable.jpg", large(2));
    write("staging", "ramp.jpg", large(3));
    site.server.sql(
        site.live,
        "UPDATE skf_pictures SET file = 'winter-timetable.jpg' WHERE file = 'storm.jpg'");
    String rows = site.dump();
    Map<String, String> before = files();
    assertThat(done("draft").out()).contains("Files: 1 new, 1 to replace; 6.0 MB.");
    done("review", "--keep", "conflicts");
    done("review", "--keep", "conflicts");
    done("review", "--approve");
    assertThat(done("apply").out()).contains("Files: 1 brought, 1 replaced");
    assertThat(file("live", "winter-timetable-1.jpg")).hasBinaryContent(large(1));
    assertThat(file("live", "winter-timetable.jpg")).hasBinaryContent(large(2));
    assertThat(file("live", "ramp.jpg")).hasBinaryContent(large(3));
    assertThat(
            PosixFilePermissions.toString(Files.getPosixFilePermissions(file("live", "ramp.jpg"))))
        .isEqualTo("rw-rw-r--");
    assertThat(new Program(folder).run("draft").err()).contains("Nothing that was chosen differs");
    done("undo");
    assertThat(files()).isEqualTo(before);
    assertThat(site.dump()).isEqualTo(rows);
  }

  private SftpFolder far(String path) {
    CopySpec.Server server =
        new CopySpec.Server(
            "live",
            "",
            new CopySpec.Server.Line(
                "127.0.0.1",
                site.server.port(),
                Tls.OFF,
                Optional.of(
                    new SshHost(
                        "127.0.0.1",
                        Optional.of(System.getProperty("user.name")),
                        Optional.of(ssh.port()),
                        Optional.of(folder.resolve("ssh/user")),
                        Optional.of(folder.resolve("ssh/known")),
                        Set.of()))),
            site.live,
            new CopySpec.Server.Login(
                "root",
                new CopySpec.Password() {
                  @Override
                  public String fetch() {
                    return "";
                  }

                  @Override
                  public String source() {
                    return "nobody";
                  }
                }),
            List.of(),
            Optional.empty());
    return new SftpFolder(server, folder.resolve(path).toString(), List.of("media"));
  }

  @Test
  void aFarFolderIsLikeANearOne() throws Exception {
    try (Folder far = far("web/live")) {
      assertThat(far.list("media").files())
          .containsOnlyKeys(
              "festival.jpg", "harbour-brae.jpg", "mv-selkie.jpg", "ramp.jpg", "winter-sea.jpg");
      assertThat(far.list("nowhere").files()).isEmpty();
      assertThat(far.find("media/gone.jpg")).isEmpty();
      byte[] content = large(4);
      Instant then = Instant.parse("2026-11-01T08:00:00Z");
      far.create(
          "media/2026/new pier 'ä'.jpg",
          () -> new ByteArrayInputStream(content),
          new Folder.Manner(Optional.empty(), Optional.of(then)));
      assertThat(file("live", "2026/new pier 'ä'.jpg")).hasBinaryContent(content);
      assertThat(far.sha256("media/2026/new pier 'ä'.jpg", LARGE))
          .isEqualTo(
              HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(content)));
      try (InputStream in = far.open("media/2026/new pier 'ä'.jpg")) {
        assertThat(in.readAllBytes()).isEqualTo(content);
      }
      assertThat(far.find("media/2026/new pier 'ä'.jpg")).contains(new Folder.Entry(LARGE, then));
      org.assertj.core.api.Assertions.assertThatThrownBy(
              () -> far.rename("media/2026/new pier 'ä'.jpg", "media/ramp.jpg"))
          .isInstanceOf(FileAlreadyExistsException.class);
      org.assertj.core.api.Assertions.assertThatThrownBy(
              () ->
                  far.create(
                      "media/ramp.jpg",
                      () -> new ByteArrayInputStream(content),
                      Folder.Manner.USUAL))
          .isInstanceOf(FileAlreadyExistsException.class);
      assertThat(file("live", "ramp.jpg")).hasContent("ramp");
      far.replace("media/2026/new pier 'ä'.jpg", "media/ramp.jpg");
      assertThat(file("live", "ramp.jpg")).hasBinaryContent(content);
      far.deleteIfEmpty("media/2026");
      far.deleteIfEmpty("media");
      assertThat(file("live", "2026")).doesNotExist();
      far.delete("media/ramp.jpg");
      far.delete("media/ramp.jpg");
      assertThat(file("live", "ramp.jpg")).doesNotExist();
      assertThat(far.room().getAsLong()).isPositive();
    }
  }

  @Test
  void whoMayNotUseSftpGoesOnWithoutFiles() throws Exception {
    ssh.close();
    ssh = new SshServer(Files.createDirectory(folder.resolve("other")));
    Path yaml = folder.resolve("weftex.yaml");
    Files.writeString(
        yaml,
        Files.readString(yaml)
            .replace("ssh/", "other/")
            .replaceFirst("user: ([^,]*), port: \\d+", "user: $1, port: " + ssh.port()));
    assertThat(done("mark").out())
        .containsIgnoringWhitespaces("Files were not looked at", "SFTP is not allowed");
    site.week();
    done("draft", "--tables", "harbours");
    done("review", "--approve");
    assertThat(done("apply").out()).contains("1 updated").doesNotContain("Files:");
    done("undo");
  }

  @Test
  void noLinkLeadsOutOfAFarFolder() throws Exception {
    Path outside = Files.createDirectory(folder.resolve("outside"));
    Files.writeString(outside.resolve("secret.jpg"), "secret");
    Files.createSymbolicLink(file("live", "in"), outside);
    Files.createSymbolicLink(file("live", "one.jpg"), outside.resolve("secret.jpg"));
    try (Folder far = far("web/live")) {
      org.assertj.core.api.Assertions.assertThatThrownBy(() -> far.open("media/in/secret.jpg"))
          .hasMessageContaining("leads out of");
      org.assertj.core.api.Assertions.assertThatThrownBy(
              () ->
                  far.create(
                      "media/in/x.jpg",
                      () -> new ByteArrayInputStream(new byte[1]),
                      Folder.Manner.USUAL))
          .hasMessageContaining("leads out of");
      assertThat(far.find("media/one.jpg")).isEmpty();
      assertThat(far.list("media").files()).doesNotContainKey("one.jpg");
    }
    assertThat(outside.resolve("x.jpg")).doesNotExist();
    // The folder that the model names may be elsewhere.
    Files.move(folder.resolve("web/live/media"), folder.resolve("shared"));
    Files.createSymbolicLink(folder.resolve("web/live/media"), folder.resolve("shared"));
    try (Folder far = far("web/live")) {
      assertThat(far.find("media/ramp.jpg")).isPresent();
    }
  }

  @Test
  void aLineThatIsCutInTheMiddleOfAFileGoesOn() throws Exception {
    byte[] content = new byte[12 * LARGE];
    new Random(5).nextBytes(content);
    try (Folder far = far("web/live")) {
      far.list("media");
      int[] opened = {0};
      far.create(
          "media/large.jpg",
          () -> {
            boolean first = opened[0]++ == 0;
            return new ByteArrayInputStream(content) {
              @Override
              public int read(byte[] into, int from, int count) {
                if (first && pos > content.length / 2) {
                  cut();
                }
                return super.read(into, from, Math.min(count, 100_000));
              }
            };
          },
          Folder.Manner.USUAL);
      assertThat(opened[0]).isEqualTo(2);
      assertThat(file("live", "large.jpg")).hasBinaryContent(content);
      cut();
      assertThat(far.find("media/ramp.jpg")).isPresent();
    }
  }

  @Test
  void manyFilesGoAtOnceAlsoOverALineThatIsCutMeanwhile() throws Exception {
    Random random = new Random(6);
    Map<String, byte[]> files = new TreeMap<>();
    for (int size : new int[] {0, 1, 32767, 32768, 32769, 65535, 65536, 65537, 200_000}) {
      for (int i = 0; i < 5; i++) {
        byte[] content = new byte[size];
        random.nextBytes(content);
        files.put("media/2027/0" + i + "/.weftex-" + size, content);
      }
    }
    List<String> held;
    AtomicInteger begun = new AtomicInteger();
    try (Folder far = far("web/live");
        Hands<Folder> hands = new Hands<>(far, files.size(), far::beside)) {
      hands.each(
          List.copyOf(files.keySet()),
          (path, folder) -> {
            if (begun.incrementAndGet() == 20) {
              cut();
            }
            folder.create(
                path, () -> new ByteArrayInputStream(files.get(path)), Folder.Manner.USUAL);
          });
      held = far.sha256(List.copyOf(files.keySet()));
    }
    MessageDigest digest = MessageDigest.getInstance("SHA-256");
    List<String> hashes = new ArrayList<>();
    files.forEach(
        (path, content) -> {
          assertThat(folder.resolve("web/live").resolve(path)).hasBinaryContent(content);
          hashes.add(HexFormat.of().formatHex(digest.digest(content)));
        });
    assertThat(held).isEqualTo(hashes);
    assertThat(files().get("web/live/media/2027/00/.weftex-1"))
        .endsWith(Files.getPosixFilePermissions(file("live", "ramp.jpg")).toString());
  }

  /** Ends the server's side of every line. */
  private void cut() {
    try {
      new ProcessBuilder("pkill", "-9", "-P", "" + ssh.process()).start().waitFor();
      Thread.sleep(300);
    } catch (IOException | InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }
}
