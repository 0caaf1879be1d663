package weftex.cli;

import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.DefaultParser;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.ParseException;
import org.apache.commons.cli.UnrecognizedOptionException;
import weftex.cli.command.Command;
import weftex.cli.command.CommandName;
import weftex.cli.command.Result;
import weftex.cli.render.Page;
import weftex.cli.render.Visible;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.RunLog;
import weftex.cli.session.Session;
import weftex.core.yaml.Nearest;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.apply.CommitGate;
import weftex.store.state.Files0600;
import weftex.store.state.StateFolder;

/** Runs one command: parses its options, prints its result, and words whatever goes wrong. */
public final class Cli {
  /** What a command that takes an argument begins its line of usage with. */
  private static final Pattern ARGUMENT = Pattern.compile("^\\[[A-Z]+\\]");

  private final Session session;

  public Cli(Session session) {
    this.session = session;
  }

  /** Runs a command line and returns how it ended. Never throws. */
  public ExitStatus run(String... args) {
    if (args.length == 2 && args[0].equals("help")) {
      return run(args[1], "--help");
    }
    if (args.length == 0 || List.of("-h", "--help", "help").contains(args[0])) {
      session.out().print(Help.overview());
      return args.length == 0 ? ExitStatus.WRONG_USAGE : ExitStatus.DONE;
    }
    if (args[0].equals("--version")) {
      session.out().println(Session.TOOL);
      return ExitStatus.DONE;
    }
    Optional<CommandName> name = CommandName.of(args[0]);
    if (name.isEmpty()) {
      return usage(
          "There is no command '"
              + args[0]
              + "'."
              + Nearest.to(args[0], CommandName.words())
                  .map(word -> " Did you mean '" + word + "'?")
                  .orElse(""),
          "Run 'weftex --help' for the list.");
    }
    return run(name.get(), Arrays.copyOfRange(args, 1, args.length));
  }

  private ExitStatus run(CommandName name, String[] args) {
    Command command = name.create();
    CommandLine line;
    try {
      if (Arrays.asList(args).contains("-h") || Arrays.asList(args).contains("--help")) {
        session.out().print(Help.of(name, command, session.terminal().width()));
        return ExitStatus.DONE;
      }
      line = new DefaultParser(false).parse(Help.withCommonOptions(command), args);
    } catch (UnrecognizedOptionException e) {
      List<String> known =
          Help.withCommonOptions(command).getOptions().stream()
              .filter(option -> option.getLongOpt() != null)
              .map(option -> "--" + option.getLongOpt())
              .toList();
      return usage(
          "'weftex "
              + name.word()
              + "' has no option "
              + e.getOption()
              + "."
              + Nearest.to(e.getOption(), known)
                  .map(word -> " Did you mean " + word + "?")
                  .orElse(""),
          "Run 'weftex " + name.word() + " --help'.");
    } catch (ParseException e) {
      return usage(e.getMessage() + ".", "Run 'weftex " + name.word() + " --help'.");
    }
    if (!line.getArgList().isEmpty() && !ARGUMENT.matcher(command.arguments()).find()) {
      return usage(
          "'weftex " + name.word() + "' takes no argument '" + line.getArgList().get(0) + "'.",
          "Run 'weftex " + name.word() + " --help'.");
    }
    RunLog log = session.log();
    log.begin(
        name.word(), Arrays.stream(line.getOptions()).map(Option::getLongOpt).distinct().toList());
    try {
      return run(command, line);
    } finally {
      log.close();
    }
  }

  private ExitStatus run(Command command, CommandLine line) {
    Session own = line.hasOption("no-color") ? session.plain() : session;
    try {
      Result result = command.run(line, own);
      if (line.hasOption("json")) {
        printJson(result.data());
      } else {
        Page page = new Page(own.out(), own.terminal());
        result.text().accept(page);
      }
      own.out().flush();
      session.log().end(result.status().code(), "done");
      return result.status();
    } catch (Refusal e) {
      own.out().flush();
      say(e.getMessage(), e.next());
      debug(line, e);
      ExitStatus status = ExitStatus.of(e.kind());
      session.log().end(status.code(), "refused");
      return status;
    } catch (IOException | RuntimeException | Error e) {
      own.out().flush();
      ExitStatus status = failed(line, e);
      session.log().end(status.code(), "failed: " + e.getClass().getName());
      return status;
    }
  }

  private void printJson(Object data) throws IOException {
    OutputStream out = session.out();
    byte[] json =
        JsonMapper.builder()
            .addModule(new Jdk8Module())
            .enable(SerializationFeature.INDENT_OUTPUT)
            .build()
            .writeValueAsBytes(data);
    out.write(json);
    out.write('\n');
  }

  private ExitStatus usage(String what, String next) {
    say(what, next);
    return ExitStatus.WRONG_USAGE;
  }

  private void say(String what, String next) {
    session.err().println("weftex: " + Visible.line(what));
    session.err().println("        " + Visible.line(next));
    session.err().flush();
  }

  private void debug(CommandLine line, Throwable e) {
    if (line.hasOption("debug")) {
      e.printStackTrace(session.err());
      session.err().flush();
    }
  }

  /** A failure that nobody foresaw: the details go to a file that can be sent in. */
  private ExitStatus failed(CommandLine line, Throwable e) {
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
    String stamp = session.clock().instant().toString().replace(':', '-');
    Path file = StateFolder.of(session.folder().resolve(StateFolder.CONFIGURATION)).failure(stamp);
    String where;
    try {
      Files0600.createFolder(file.getParent());
      StringWriter trace = new StringWriter();
      e.printStackTrace(new PrintWriter(trace));
      try (OutputStream out = Files0600.create(file)) {
        out.write((Session.TOOL + "\n" + trace).getBytes(StandardCharsets.UTF_8));
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
      case WRITING_AFTER_SCHEMA ->
          "No row was changed. New tables and columns that were made before the rows may still be"
              + " there, unused: 'weftex history' takes them away.";
      case COMMITTING ->
          "It happened while the commit was on its way: either all was written or nothing. 'weftex"
              + " history' asks which.";
      case COMMITTED -> "The changes are made and permanent.";
    };
  }

  private static boolean isOrdinary(Throwable e) {
    return e instanceof IOException && e.getMessage() != null;
  }
}
