package weftex.store.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.seal.AtRest;

class LocalFolderTest {
  @TempDir Path root;
  private LocalFolder folder;

  @BeforeEach
  void make() throws IOException {
    folder = new LocalFolder(root, List.of("media"));
    write("media/pier.jpg", "pier");
  }

  private void write(String path, String content) throws IOException {
    Path file = root.resolve(path);
    Files.createDirectories(file.getParent());
    Files.writeString(file, content);
  }

  private static Folder.Opening content(String text) {
    return () -> new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
  }

  private static Folder.Manner like(String path) {
    return new Folder.Manner(Optional.of(path), Optional.empty());
  }

  private void modified(String path, Instant at) throws IOException {
    Files.setLastModifiedTime(root.resolve(path), FileTime.from(at));
  }

  private String mode(String path) throws IOException {
    return PosixFilePermissions.toString(Files.getPosixFilePermissions(root.resolve(path)));
  }

  @Test
  void whatIsThereIsListedAndWhatIsOnItsWayIsNot() throws Exception {
    write("media/2026/a.jpg", "a");
    write("media/.weftex-1-2", "on its way");
    Files.createSymbolicLink(root.resolve("media/link.jpg"), root.resolve("media/pier.jpg"));
    Folder.Listing listing = folder.list("media");
    assertThat(listing.files()).containsOnlyKeys("pier.jpg");
    assertThat(listing.files().get("pier.jpg").bytes()).isEqualTo(4);
    assertThat(listing.folders()).containsExactly("2026");
    assertThat(folder.list("nowhere").files()).isEmpty();
    assertThat(folder.list("").folders()).containsExactly("media");
    assertThat(folder.find("media/link.jpg")).isEmpty();
    assertThat(folder.isTaken("media/link.jpg")).isTrue();
    assertThat(folder.find("media")).isEmpty();
  }

  @Test
  void aNewFileIsLikeItsNeighboursAndOneThatReplacesLikeTheReplaced() throws Exception {
    Files.setPosixFilePermissions(
        root.resolve("media/pier.jpg"), PosixFilePermissions.fromString("rw-rw----"));
    folder.create("media/.weftex-n", content("new"), like("media/gone.jpg"));
    assertThat(mode("media/.weftex-n")).isEqualTo("rw-rw----");
    write("media/other.jpg", "other");
    Files.setPosixFilePermissions(
        root.resolve("media/other.jpg"), PosixFilePermissions.fromString("rw-r--r--"));
    folder.create("media/.weftex-x", content("another"), like("media/other.jpg"));
    assertThat(mode("media/.weftex-x")).isEqualTo("rw-r--r--");
    folder.replace("media/.weftex-x", "media/other.jpg");
    assertThat(root.resolve("media/other.jpg")).hasContent("another");
    assertThat(root.resolve("media/.weftex-x")).doesNotExist();
  }

  @Test
  void newFoldersAreLikeTheOneAboveAndGoOnlyIfNothingIsInThem() throws Exception {
    Files.setPosixFilePermissions(
        root.resolve("media"), PosixFilePermissions.fromString("rwxr-x--x"));
    folder.create("media/2026/12/.weftex-a", content("a"), like("media/2026/12/a.jpg"));
    folder.rename("media/2026/12/.weftex-a", "media/2026/12/a.jpg");
    assertThat(mode("media/2026/12")).isEqualTo("rwxr-x--x");
    assertThat(mode("media/2026/12/a.jpg")).isEqualTo("rw-r-----");
    folder.deleteIfEmpty("media/2026/12");
    assertThat(root.resolve("media/2026/12/a.jpg")).exists();
    folder.delete("media/2026/12/a.jpg");
    folder.deleteIfEmpty("media/2026/12");
    assertThat(root.resolve("media/2026/12")).doesNotExist();
    folder.deleteIfEmpty("media/2026/12");
  }

  @Test
  void nothingThatIsThereIsOverwrittenByANewFile() throws Exception {
    assertThatThrownBy(() -> folder.create("media/pier.jpg", content("x"), like("x")))
        .isInstanceOf(FileAlreadyExistsException.class);
    Instant then = Instant.parse("2026-11-01T08:00:00Z");
    folder.create(
        "media/.weftex-y", content("y"), new Folder.Manner(Optional.empty(), Optional.of(then)));
    assertThat(folder.sha256(List.of("media/.weftex-y", "media/pier.jpg")))
        .containsExactly(folder.sha256("media/.weftex-y", 1), folder.sha256("media/pier.jpg", 4));
    assertThat(folder.find("media/.weftex-y").orElseThrow().modified()).isEqualTo(then);
    assertThatThrownBy(() -> folder.rename("media/.weftex-y", "media/pier.jpg"))
        .isInstanceOf(FileAlreadyExistsException.class);
    assertThat(root.resolve("media/pier.jpg")).hasContent("pier");
    folder.rename("media/.weftex-y", "media/y.jpg");
    assertThat(root.resolve("media/y.jpg")).hasContent("y");
    assertThat(root.resolve("media/.weftex-y")).doesNotExist();
    Files.createDirectory(root.resolve("media/folder.jpg"));
    assertThatThrownBy(() -> folder.replace("media/y.jpg", "media/folder.jpg"))
        .hasMessageContaining("no ordinary file");
  }

  @Test
  void noLinkLeadsOutButThatOfTheModelsOwnFolder(@TempDir Path elsewhere) throws Exception {
    Files.writeString(elsewhere.resolve("secret.jpg"), "secret");
    Files.createSymbolicLink(root.resolve("media/out"), elsewhere);
    for (String path : List.of("media/out/secret.jpg", "media/out/new/deep.jpg")) {
      assertThatThrownBy(() -> folder.find(path)).hasMessageContaining("leads out of");
      assertThatThrownBy(() -> folder.create(path, content("x"), like(path)))
          .hasMessageContaining("leads out of");
      assertThatThrownBy(() -> folder.delete(path)).hasMessageContaining("leads out of");
    }
    assertThat(elsewhere.resolve("new")).doesNotExist();
    Files.move(root.resolve("media"), elsewhere.resolve("media"));
    Files.createSymbolicLink(root.resolve("media"), elsewhere.resolve("media"));
    assertThat(folder.find("media/pier.jpg")).isPresent();
    assertThat(folder.list("").folders()).containsExactly("media");
    assertThatThrownBy(() -> folder.find("media/out/secret.jpg"))
        .hasMessageContaining("leads out of");
    assertThatThrownBy(() -> new LocalFolder(root, List.of()).find("media/pier.jpg"))
        .hasMessageContaining("leads out of");
  }

  @Test
  void whatIsNoOrdinaryFileIsNotThere() throws Exception {
    Path pipe = root.resolve("media/pipe.jpg");
    assertThat(new ProcessBuilder("mkfifo", "" + pipe).start().waitFor()).isZero();
    assertThat(folder.find("media/pipe.jpg")).isEmpty();
    assertThat(folder.list("media").files()).containsOnlyKeys("pier.jpg");
    folder.create("media/.weftex-z", content("z"), like("media/pier.jpg"));
    assertThatThrownBy(() -> folder.rename("media/.weftex-z", "media/pipe.jpg"))
        .isInstanceOf(FileAlreadyExistsException.class);
    assertThatThrownBy(() -> folder.replace("media/.weftex-z", "media/pipe.jpg"))
        .hasMessageContaining("no ordinary file");
  }

  @Test
  void aFileIsReadOnceAsLongAsSizeAndTimeStay() throws Exception {
    Path seen = root.resolve("seen.jsonl");
    Instant then = Instant.parse("2026-11-01T08:00:00Z");
    modified("media/pier.jpg", then);
    try (CopyFiles files = new CopyFiles(folder, SeenHashes.open(seen, "here"), false)) {
      assertThat(files.content("media/pier.jpg")).isPresent();
      assertThat(files.content("media/gone.jpg")).isEmpty();
      assertThat(files.read()).isEqualTo(4);
    }
    try (CopyFiles files = new CopyFiles(folder, SeenHashes.open(seen, "here"), false)) {
      assertThat(files.content("media/pier.jpg").get().sha256())
          .isEqualTo(folder.sha256("media/pier.jpg", 4));
      assertThat(files.read()).isZero();
    }
    // Another folder, a damaged memory, another time, or a thorough look: it is read again.
    for (SeenHashes hashes :
        List.of(SeenHashes.open(seen, "there"), SeenHashes.open(root.resolve("none"), "here"))) {
      CopyFiles files = new CopyFiles(folder, hashes, false);
      files.content("media/pier.jpg");
      assertThat(files.read()).isEqualTo(4);
    }
    CopyFiles thorough = new CopyFiles(folder, SeenHashes.open(seen, "here"), true);
    thorough.content("media/pier.jpg");
    assertThat(thorough.read()).isEqualTo(4);
    Files.writeString(seen, Files.readString(seen).replace("\"sha256\"", "\"sha255\""));
    CopyFiles damaged = new CopyFiles(folder, SeenHashes.open(seen, "here"), false);
    damaged.content("media/pier.jpg");
    assertThat(damaged.read()).isEqualTo(4);
  }

  @Test
  void whatIsSetAsideIsKeptOnceAndOnlyIfItIsWhatItIsSaidToBe() throws Exception {
    Aside aside = new Aside(root.resolve("aside"), AtRest.CLEAR);
    CopyFiles files = new CopyFiles(folder, SeenHashes.open(root.resolve("none"), "x"), false);
    var pier = files.content("media/pier.jpg").orElseThrow();
    assertThat(aside.has(pier)).isFalse();
    assertThatThrownBy(() -> aside.keep(content("another").open(), pier))
        .hasMessageContaining("changed while it was read");
    assertThat(aside.all()).isEmpty();
    aside.keep(content("pier").open(), pier);
    aside.keep(content("whatever, it is there").open(), pier);
    assertThat(aside.all()).hasSize(1);
    try (InputStream in = aside.open(pier)) {
      assertThat(in).hasContent("pier");
    }
    assertThat(mode(root.relativize(aside.all().get(0)).toString())).isEqualTo("rw-------");
  }
}
