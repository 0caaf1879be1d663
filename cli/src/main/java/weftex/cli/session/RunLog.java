package weftex.cli.session;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.logging.ErrorManager;
import java.util.logging.FileHandler;
import java.util.logging.Formatter;
import java.util.logging.Level;
import java.util.logging.LogRecord;
import java.util.stream.Stream;
import weftex.store.state.Files0600;

/**
 * What was run, on what, how long each step took and what came out, in a few files that take turns.
 * Values of options, content of rows and passwords are never among it. The JDK's own logging writes
 * it: what else there is takes longer to start than most commands to run.
 */
public final class RunLog implements AutoCloseable {
  private static final int BYTES = 1_000_000;
  private static final int FILES = 5;
  private static final double NANOS = 1e9;

  private final List<String> waiting = new ArrayList<>();
  private FileHandler handler;
  private Path state;
  private long began;

  /** Lines that begin with the time and the process. */
  private static final class Lines extends Formatter {
    @Override
    public String format(LogRecord entry) {
      return entry.getInstant().truncatedTo(ChronoUnit.MILLIS)
          + " "
          + ProcessHandle.current().pid()
          + " "
          + entry.getMessage()
          + "\n";
    }
  }

  /** A disk that is full is told of by the work itself; without a log it goes on. */
  private static final class Silent extends ErrorManager {
    @Override
    public void error(String what, Exception e, int code) {}
  }

  /**
   * A command begins.
   *
   * @param options the names of the options that are given
   */
  public void begin(String command, List<String> options) {
    began = System.nanoTime();
    event(
        "begin "
            + command
            + String.join("", options.stream().map(option -> " --" + option).toList())
            + " ("
            + Session.TOOL
            + ", Java "
            + Runtime.version()
            + ", "
            + System.getProperty("os.name")
            + ")");
  }

  /** When the command began, by {@link System#nanoTime}. */
  public long began() {
    return began;
  }

  /**
   * Goes on in a pair's state folder, if it has one; what came before is written first. Where
   * nothing can be written nothing is.
   */
  public synchronized void open(Path state) {
    this.state = state;
    if (handler != null || !Files.isDirectory(state)) {
      return;
    }
    Path folder = state.resolve("log");
    try {
      Files0600.createFolder(folder);
      handler = new FileHandler(folder.resolve("weftex.%g.log").toString(), BYTES, FILES, true);
      handler.setEncoding("UTF-8");
      handler.setFormatter(new Lines());
      handler.setErrorManager(new Silent());
      // What takes turns is made with the rights that the system gives.
      try (Stream<Path> files = Files.list(folder)) {
        for (Path file : files.toList()) {
          Files0600.take(file);
        }
      }
      waiting.forEach(this::write);
      waiting.clear();
    } catch (IOException e) {
      handler = null;
    }
  }

  private void write(String event) {
    handler.publish(new LogRecord(Level.INFO, event));
  }

  /** Something that is known of the run, such as where a copy is. */
  public synchronized void event(String event) {
    if (handler == null) {
      waiting.add(event);
    } else {
      write(event);
    }
  }

  /**
   * A step came to its end.
   *
   * @param done how far it went; 0 if nobody counted
   */
  public void step(String what, long nanos, long done) {
    event(
        "step "
            + what
            + String.format(Locale.ROOT, ", %.2f s", nanos / NANOS)
            + (done > 0 ? ", count " + done : ""));
  }

  /** The command ended; {@code how} in one word. */
  public void end(int status, String how) {
    if (state != null) {
      // The first command of a pair makes the folder only then.
      open(state);
    }
    event(
        String.format(
            Locale.ROOT,
            "end status %d, %s, %.2f s",
            status,
            how,
            (System.nanoTime() - began) / NANOS));
  }

  @Override
  public synchronized void close() {
    if (handler != null) {
      handler.close();
      handler = null;
    }
    waiting.clear();
  }
}
