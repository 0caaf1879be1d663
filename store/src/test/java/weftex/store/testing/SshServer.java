package weftex.store.testing;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** A private OpenSSH server on a free port of this machine, with keys of its own. */
public final class SshServer {
  private static final Path PROGRAM = Path.of("/usr/sbin/sshd");
  private static final Path SEPARATED = Path.of("/run/sshd");

  private final Path folder;
  private final int port;
  private Process process;

  /**
   * Starts one.
   *
   * @param folder for its keys and its configuration
   * @param more lines of its configuration
   */
  public SshServer(Path folder, String... more) throws IOException, InterruptedException {
    this.folder = folder;
    try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      this.port = free.getLocalPort();
    }
    key("host", "");
    key("user", "");
    key("locked", "a passphrase");
    key("stranger", "");
    Files.write(
        folder.resolve("authorized"),
        List.of(
            Files.readString(folder.resolve("user.pub")).strip(),
            Files.readString(folder.resolve("locked.pub")).strip()));
    List<String> lines =
        new ArrayList<>(
            List.of(
                "Port " + port,
                "ListenAddress 127.0.0.1",
                "HostKey " + folder.resolve("host"),
                "AuthorizedKeysFile " + folder.resolve("authorized"),
                "PidFile none",
                "StrictModes no",
                "UsePAM no",
                "PasswordAuthentication no",
                "KbdInteractiveAuthentication no"));
    lines.addAll(List.of(more));
    Files.write(folder.resolve("sshd_config"), lines);
    knownHosts(Files.readString(folder.resolve("host.pub")));
    start();
  }

  /** Whether this machine has the program. */
  public static boolean isHere() {
    return Files.isExecutable(PROGRAM)
        && (Files.isDirectory(SEPARATED) || Files.isWritable(SEPARATED.getParent()));
  }

  /** Makes a key; a file of the same name with {@code .pub} has its public part. */
  public void key(String name, String passphrase) throws IOException, InterruptedException {
    Process made =
        new ProcessBuilder(
                "ssh-keygen",
                "-q",
                "-t",
                "ed25519",
                "-N",
                passphrase,
                "-C",
                "",
                "-f",
                "" + file(name))
            .inheritIO()
            .start();
    if (made.waitFor() != 0) {
      throw new IOException("no key could be made");
    }
  }

  /** Writes what clients know of the server. */
  public void knownHosts(String publicKey) throws IOException {
    Files.writeString(file("known"), "[127.0.0.1]:" + port + " " + publicKey);
  }

  private void start() throws IOException, InterruptedException {
    if (Files.isWritable(SEPARATED.getParent())) {
      Files.createDirectories(SEPARATED);
    }
    process =
        new ProcessBuilder("" + PROGRAM, "-D", "-e", "-f", "" + file("sshd_config"))
            .redirectErrorStream(true)
            .redirectOutput(file("log").toFile())
            .start();
    for (int i = 0; i < 100; i++) {
      try {
        new Socket("127.0.0.1", port).close();
        return;
      } catch (IOException e) {
        process.waitFor(50, TimeUnit.MILLISECONDS);
      }
    }
    throw new IOException("sshd does not answer: " + Files.readString(file("log")));
  }

  public int port() {
    return port;
  }

  /** The number of its process. */
  public long process() {
    return process.pid();
  }

  /** A file of the server's folder: a key, or {@code known}. */
  public Path file(String name) {
    return folder.resolve(name);
  }

  /** Cuts all lines that lead through it. */
  public void cut() {
    process.descendants().forEach(ProcessHandle::destroyForcibly);
  }

  /** Ends it, and all lines that lead through it. */
  public void close() throws InterruptedException {
    List<ProcessHandle> sessions = process.descendants().toList();
    process.destroy();
    sessions.forEach(ProcessHandle::destroyForcibly);
    process.waitFor(5, TimeUnit.SECONDS);
  }
}
