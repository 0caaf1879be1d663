import java.io.InputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import weftex.store.database.CopySpec;
import weftex.store.database.SshHost;
import weftex.store.database.Tls;
import weftex.store.file.CopyFiles;
import weftex.store.file.Folder;
import weftex.store.file.Hands;
import weftex.store.file.SeenHashes;
import weftex.store.file.SftpFolder;
import weftex.store.ssh.SshLines;

/** Lists or copies files over SFTP as the program does, and says how long that took. */
class Files {
  public static void main(String[] arguments) throws Exception {
    int port = Integer.parseInt(arguments[0]);
    Path work = Path.of(arguments[1]);
    CopySpec.Password none =
        new CopySpec.Password() {
          @Override
          public String fetch() {
            return "";
          }

          @Override
          public String source() {
            return "";
          }
        };
    SshHost host =
        new SshHost(
            "127.0.0.1",
            Optional.empty(),
            Optional.of(port),
            Optional.of(work.resolve("user")),
            Optional.of(work.resolve("known")),
            Set.of());
    CopySpec.Server server =
        new CopySpec.Server(
            "live",
            "",
            new CopySpec.Server.Line("127.0.0.1", 3306, Tls.OFF, Optional.of(host)),
            "x",
            new CopySpec.Server.Login("x", none),
            List.of(),
            Optional.empty());
    long start = System.nanoTime();
    int[] count = {0};
    try (SftpFolder far = new SftpFolder(server, work.resolve("web").toString(), List.of("media"))) {
      CopyFiles files = new CopyFiles(far, SeenHashes.open(work.resolve("none"), "x"), false);
      if (arguments[2].equals("list")) {
        files.walk("media", path -> count[0]++);
      } else {
        Path from = work.resolve("from/media").resolve(arguments[3]);
        try (Stream<Path> all = java.nio.file.Files.list(from)) {
          List<Path> ones = all.toList();
          count[0] = ones.size();
          try (Hands<Folder> hands = new Hands<>(far, ones.size(), far::beside)) {
            hands.each(
                ones,
                (one, folder) ->
                    folder.create(
                        place(one, arguments[3], ".weftex-"),
                        () -> java.nio.file.Files.newInputStream(one),
                        Folder.Manner.USUAL));
            far.sha256(ones.stream().map(one -> place(one, arguments[3], ".weftex-")).toList());
            hands.each(
                ones,
                (one, folder) ->
                    folder.rename(place(one, arguments[3], ".weftex-"), place(one, arguments[3], "")));
          }
        }
      }
    }
    SshLines.close();
    System.out.printf("%.2f s for %d%n", (System.nanoTime() - start) / 1e9, count[0]);
  }

  private static String place(Path file, String folder, String before) {
    return "media/" + folder + "/" + before + file.getFileName();
  }
}
