package weftex.cli;

import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.DefaultParser;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.ParseException;
import org.apache.commons.cli.UnrecognizedOptionException;
import weftex.cli.command.CommandName;
import weftex.cli.command.Roof;
import weftex.cli.config.RoofSites;
import weftex.cli.page.Page;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.OwnKeys;
import weftex.cli.session.RunLog;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.core.yaml.Nearest;
import weftex.store.Refusal;

/** Runs one command: parses its options, prints its result, and words whatever goes wrong. */
public final class Cli {
  /** What a command that takes an argument begins its line of usage with. */
  private static final Pattern ARGUMENT = Pattern.compile("^\\[[A-Z]+\\]");

  private final Session session;
  private final Failures failures;

  public Cli(Session session) {
    this.session = session;
    this.failures = new Failures(session);
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
    return logged(name, args, command, line);
  }

  /** Runs it, and notes in the log how it ended. */
  private ExitStatus logged(CommandName name, String[] args, Command command, CommandLine line) {
    RunLog log = session.log();
    log.begin(
        name.word(), Arrays.stream(line.getOptions()).map(Option::getLongOpt).distinct().toList());
    try {
      Session seen = line.hasOption("no-color") ? session.plain() : session;
      Session own =
          seen.with(
              OwnKeys.of(
                  List.of(
                      Optional.ofNullable(line.getOptionValues(OwnKeys.OPTION))
                          .orElse(new String[0])),
                  seen.folder(),
                  seen.environment(),
                  seen.terminal()));
      Ended ended = attempt(line, own, "", () -> run(name, command, line, args, own));
      log.end(ended.status().code(), ended.words());
      return ended.status();
    } finally {
      log.close();
    }
  }

  /** Runs a command once, or for each of several sites that the file describes. */
  private Ended run(CommandName name, Command command, CommandLine line, String[] args, Session own)
      throws Refusal, IOException {
    List<RoofSites.Site> sites = Roof.sites(name, command, line, own);
    if (!sites.isEmpty()) {
      return eachSite(sites, name, line, args, own);
    }
    Result result = command.run(line, own);
    if (line.hasOption("json")) {
      printJson(result.data());
    } else {
      print(result, own);
    }
    return Ended.done(result.status());
  }

  static void print(Result result, Session own) {
    result.text().accept(new Page(own.out(), own.terminal()));
    own.out().flush();
  }

  /** A site of which there is nothing to be done does not count, unless that holds for all. */
  private Ended eachSite(
      List<RoofSites.Site> sites, CommandName name, CommandLine line, String[] args, Session own)
      throws IOException {
    boolean json = line.hasOption("json");
    ExitStatus worst = ExitStatus.DONE;
    int idle = 0;
    List<SiteResult> results = new ArrayList<>();
    for (RoofSites.Site site : sites) {
      if (!json) {
        Page page = new Page(own.out(), own.terminal());
        page.line(page.strong("── " + site.words() + " ──"));
        own.out().flush();
      }
      Command command = name.create();
      CommandLine of = atSite(command, args, site);
      SiteRun run = new SiteRun(command, of, own, json);
      Ended ended = attempt(of, own, "site " + site.number() + ": ", run);
      results.add(new SiteResult(site.number(), site.addresses(), ended.status().code(), run.data));
      idle += run.nothing ? 1 : 0;
      worst = run.nothing || ended.status().code() < worst.code() ? worst : ended.status();
      if (!json) {
        own.out().println();
      }
    }
    if (json) {
      printJson(Map.of("sites", results));
    }
    return Ended.done(idle == sites.size() ? ExitStatus.WRONG_USAGE : worst);
  }

  private static CommandLine atSite(Command command, String[] args, RoofSites.Site site)
      throws IOException {
    String[] own = Arrays.copyOf(args, args.length + 2);
    own[args.length] = "--at";
    own[args.length + 1] = String.valueOf(site.number());
    try {
      return new DefaultParser(false).parse(Help.withCommonOptions(command), own);
    } catch (ParseException e) {
      throw new IOException(e.getMessage(), e);
    }
  }

  /**
   * Runs something, and says what becomes of it.
   *
   * @param about what stands before a sentence of a refusal
   */
  private Ended attempt(CommandLine line, Session own, String about, Work work) {
    try {
      Ended ended = work.run();
      own.out().flush();
      return ended;
    } catch (Refusal e) {
      own.out().flush();
      failures.say(about + e.getMessage(), e.next());
      failures.debug(line, e);
      return new Ended(ExitStatus.of(e.kind()), "refused");
    } catch (IOException | RuntimeException | Error e) {
      own.out().flush();
      return new Ended(failures.failed(line, e), "failed: " + e.getClass().getName());
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
    failures.say(what, next);
    return ExitStatus.WRONG_USAGE;
  }
}
