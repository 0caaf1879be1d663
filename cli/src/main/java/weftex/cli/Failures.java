package weftex.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import org.apache.commons.cli.CommandLine;
import weftex.cli.page.Visible;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.FailureTrace;
import weftex.cli.session.Session;
import weftex.store.FailureWords;
import weftex.store.FileProblem;
import weftex.store.engine.CommitGate;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;
import weftex.store.state.StateFolder;

/** How a run that failed ends: what is said of it, and the exit code. */
final class Failures {

  private final Session session;

  Failures(Session session) {
    this.session = session;
  }

  void say(String what, String next) {
    session.err().println("weftex: " + Visible.line(what));
    session.err().println("        " + Visible.line(next));
    session.err().flush();
  }

  void debug(CommandLine line, Throwable e) {
    if (line.hasOption("debug")) {
      e.printStackTrace(session.err());
      session.err().flush();
    }
  }

  /** A failure that nobody foresaw: the details go to a file that can be sent in. */
  ExitStatus failed(CommandLine line, Throwable e) {
    if (e instanceof FileProblem problem) {
      say(problem.getMessage() + ". " + whatIsChanged(session.gate()), problem.next());
      debug(line, e);
      return ExitStatus.WRONG_USAGE;
    }
    if (isOrdinary(e)) {
      say(
          FailureWords.of(e) + ". " + whatIsChanged(session.gate()),
          "Check the connection and the disk, and run it again.");
      debug(line, e);
      return ExitStatus.UNREACHABLE;
    }
    if (e instanceof LinkageError) {
      // Libraries with native code unpack it into the temporary folder when they are first used.
      String folder = System.getProperty("java.io.tmpdir");
      say(
          "A library could not be loaded by way of the temporary folder "
              + folder
              + ": "
              + e.getMessage()
              + ". "
              + whatIsChanged(session.gate()),
          "Make room there, or name another folder with"
              + " WEFTEX_JAVA_OPTIONS=-Djava.io.tmpdir=FOLDER, and run it again.");
      debug(line, e);
      return ExitStatus.UNREACHABLE;
    }
    if (e instanceof OutOfMemoryError) {
      say(
          "The memory that Java may use was not enough, most likely for values of many megabytes. "
              + whatIsChanged(session.gate()),
          "Run it again with WEFTEX_JAVA_OPTIONS=-Xmx1g, or leave the table of those values out.");
      debug(line, e);
      return ExitStatus.FAILED;
    }
    return unexpected(line, e);
  }

  /** The details go to a file that can be sent in. */
  private ExitStatus unexpected(CommandLine line, Throwable e) {
    String stamp = session.clock().instant().toString().replace(':', '-');
    StateFolder state = StateFolder.of(session.folder().resolve(StateFolder.CONFIGURATION));
    Path file = state.failure(stamp);
    String where;
    try {
      Files0600.createFolder(file.getParent());
      StringWriter trace = new StringWriter();
      e.printStackTrace(new PrintWriter(trace));
      String text = Session.TOOL + "\n" + trace;
      boolean sealed = AtRest.isIn(state.folder());
      try (OutputStream out = Files0600.create(file)) {
        out.write(
            (sealed ? FailureTrace.withoutMessages(text) : text).getBytes(StandardCharsets.UTF_8));
      }
      where = "Please report it with the file " + file + ".";
    } catch (IOException | RuntimeException unwritable) {
      where = "Run it again with --debug and please report what it prints.";
    }
    say("An unexpected failure (" + e + "). " + whatIsChanged(session.gate()), where);
    debug(line, e);
    return ExitStatus.FAILED;
  }

  /** As far as this can be said for sure. */
  static String whatIsChanged(CommitGate gate) {
    return switch (gate.stage()) {
      case IDLE -> "Nothing was changed.";
      case WRITING, INTERRUPTED -> "Everything was rolled back; nothing was changed.";
      case WRITING_AFTER_MAKING ->
          "No row was changed. New tables, columns and files that were made before the rows may still be"
              + " there, unused: 'weftex history' takes them away.";
      case COMMITTING ->
          "It happened while the commit was on its way: either all was written or nothing. 'weftex"
              + " history' asks which.";
      case COMMITTED -> "The changes are made and permanent.";
    };
  }

  static boolean isOrdinary(Throwable e) {
    return e instanceof IOException && e.getMessage() != null;
  }
}
