package weftex.store.ssh;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.database.SshHost;
import weftex.store.state.Files0600;

/**
 * A running SSH client that leads a socket of this machine, which nobody else may open, to a server
 * on the other side. It ends with this process, also where that is killed.
 */
public final class SshLine {
  /** A person may be asked for a passphrase, or whether a host is the right one. */
  private static final long PATIENCE_SECONDS = 120;

  private static final long UNATTENDED_SECONDS = 30;
  private static final int MOST_LINES = 500;

  /** The socket by which further channels of this very connection are opened. */
  static final String CONTROL = "c";

  private final Process process;
  private final Path socket;
  private final List<String> said = new ArrayList<>();
  private boolean ended;

  private SshLine(Process process, Path socket) {
    this.process = process;
    this.socket = socket;
  }

  static SshLine open(CopySpec.Server spec) throws Refusal {
    boolean asks = System.console() != null;
    SshLine line;
    try {
      Path folder = Files.createTempDirectory("weftex-ssh");
      Path socket = folder.resolve("s");
      ProcessBuilder builder = new ProcessBuilder(LineCommand.command(spec, socket, asks));
      SshHost over = spec.ssh().orElseThrow();
      builder.environment().put("LC_ALL", "C");
      builder.environment().keySet().removeAll(over.withheld());
      line = new SshLine(builder.redirectOutput(ProcessBuilder.Redirect.DISCARD).start(), socket);
    } catch (IOException e) {
      throw SshProblem.noClient(spec, FailureWords.of(e), e);
    }
    line.listen();
    long seconds = asks ? PATIENCE_SECONDS : UNATTENDED_SECONDS;
    boolean up = line.await(text -> text.contains("Entering interactive session"), seconds);
    if (!up || !line.isUp()) {
      List<String> said = line.said();
      boolean silent = line.process.isAlive();
      line.close();
      throw SshProblem.of(spec, said, silent);
    }
    return line;
  }

  private void listen() {
    Thread thread =
        new Thread(
            () -> {
              try (BufferedReader lines =
                  new BufferedReader(
                      new InputStreamReader(process.getErrorStream(), StandardCharsets.UTF_8))) {
                for (String text = lines.readLine(); text != null; text = lines.readLine()) {
                  heard(text);
                }
              } catch (IOException e) {
                heard(FailureWords.of(e));
              } finally {
                synchronized (said) {
                  ended = true;
                  said.notifyAll();
                }
              }
            },
            "ssh");
    thread.setDaemon(true);
    thread.start();
  }

  private void heard(String text) {
    synchronized (said) {
      if (said.size() == MOST_LINES) {
        said.remove(0);
      }
      said.add(text);
      said.notifyAll();
    }
  }

  /** Waits for a line of what the client says; false if it ended without. */
  boolean await(Predicate<String> wanted, long seconds) {
    long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(seconds);
    synchronized (said) {
      while (said.stream().noneMatch(wanted)) {
        long left = TimeUnit.NANOSECONDS.toMillis(until - System.nanoTime());
        if (ended || left <= 0) {
          return false;
        }
        try {
          said.wait(left);
        } catch (InterruptedException e) {
          Thread.currentThread().interrupt();
          return false;
        }
      }
    }
    return true;
  }

  private List<String> said() {
    synchronized (said) {
      return List.copyOf(said);
    }
  }

  boolean isUp() {
    synchronized (said) {
      return !ended && process.isAlive() && Files.exists(socket);
    }
  }

  /** Whether it ended, or does within a moment and without a word on what is behind it. */
  public boolean endsSoon() {
    await(text -> text.contains("open failed"), 1);
    return !isUp();
  }

  /**
   * A channel of this connection to a program on the other side. It never makes a connection of its
   * own: where this one is gone, it ends.
   *
   * @param subsystem whether {@code what} is one, and no command of the other side's shell
   */
  Process channel(SshHost over, boolean subsystem, String what) throws IOException {
    List<String> words =
        new ArrayList<>(List.of("ssh", "-T", "-S", "" + socket.resolveSibling(CONTROL)));
    for (String option :
        List.of(
            "ControlMaster=no",
            "ProxyCommand=false",
            "BatchMode=yes",
            "RemoteCommand=none",
            "PermitLocalCommand=no",
            "ClearAllForwardings=yes",
            "LogLevel=ERROR")) {
      words.addAll(List.of("-o", option));
    }
    if (subsystem) {
      words.add("-s");
    }
    words.addAll(List.of("--", over.host(), what));
    ProcessBuilder builder = new ProcessBuilder(words);
    builder.environment().put("LC_ALL", "C");
    builder.environment().keySet().removeAll(over.withheld());
    return builder.redirectError(ProcessBuilder.Redirect.DISCARD).start();
  }

  /** The socket on this machine that leads to the other side. */
  public Path socket() {
    return socket;
  }

  /**
   * Why a connection through this line was not made, if the client says so within a moment: the
   * other side forbids it, or nothing is there.
   */
  public Optional<Refusal> problem(CopySpec.Server spec, Exception cause) {
    await(text -> text.contains("open failed"), 1);
    return SshProblem.behind(spec, said(), isUp(), cause);
  }

  /** What the end of this process does. */
  void letGo() throws IOException {
    process.getOutputStream().close();
  }

  void close() {
    process.descendants().forEach(ProcessHandle::destroy);
    process.destroy();
    try {
      letGo();
      process.waitFor(2, TimeUnit.SECONDS);
      Files0600.delete(socket.getParent());
    } catch (IOException e) {
      // An empty folder of temporary files is left.
      return;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
