package weftex.cli.drafting;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.SelectionSaver;
import weftex.cli.config.SelectionWords;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.MaskedPeople;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Sealing;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Signing;
import weftex.cli.workplace.Workplace;
import weftex.core.row.RowName;
import weftex.store.Refusal;
import weftex.store.seal.Receivers;
import weftex.store.state.FileClaim;

/** Writes a change set. */
public final class DraftCommand implements Command {
  @Override
  public Options options() {
    Options options = new Options();
    SelectionOptions.addTo(options);
    options.addOption(
        Option.builder()
            .longOpt("save-selection")
            .hasArg()
            .argName("NAME")
            .desc("keep what is chosen here under this name in weftex.yaml")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("again")
            .desc(
                "bring a change set up to date: the same selection and direction, and every decision"
                    + " that still fits; FILE, or else the newest one")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("join")
            .hasArg()
            .argName("OTHER")
            .desc("put FILE and this change set together, if they don't conflict")
            .get());
    return addWriting(options);
  }

  /** What is written, and for whom. */
  private Options addWriting(Options options) {
    options.addOption(Workplace.into());
    options.addOption(Workplace.twoWay());
    options.addOption(Workplace.thorough());
    options.addOption(
        Option.builder("o")
            .longOpt("out")
            .hasArg()
            .argName("FILE")
            .desc("where to write it (default: a new file in .weftex/change-sets)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(DraftFile.OVERWRITE)
            .desc("with -o: replace the file even if it holds decisions")
            .get());
    Sealing.addSealFor(options);
    options.addOption(Signing.option("sign the draft"));
    options.addOption(
        Option.builder()
            .longOpt("by")
            .hasArg()
            .argName("NAME")
            .desc("with --sign: who drafts (default: as git knows you, or your user name)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(DraftRun.EMPTY)
            .desc("for runs by night: write a change set also where nothing differs")
            .get());
    options.addOption(MaskedPeople.option());
    return options;
  }

  @Override
  public Map<String, List<String>> headings() {
    return SelectionOptions.heading("save-selection");
  }

  @Override
  public String arguments() {
    return "[FILE] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex draft",
        "weftex draft --tables 'page*,settings' --rows pages:40-60",
        "weftex draft --item 'page:Winter*' --item setting:season --save-selection winter",
        "weftex draft --selection winter --without-author tester",
        "weftex draft --again",
        "weftex draft redesign.jsonl --join fares.jsonl -o both.jsonl");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    FileClaim held = place.hold("draft", "drafting");
    try {
      return run(line, session, place);
    } finally {
      held.close();
    }
  }

  private static Result run(CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    if (line.hasOption("join")) {
      return JoinedDraft.run(
          line, session, place, receivers -> DraftFile.of(line, session, place, receivers));
    }
    Optional<EarlierDraft> earlier =
        line.hasOption("again") ? Optional.of(EarlierDraft.read(line, place)) : Optional.empty();
    checkArguments(line, earlier.isPresent());
    SelectionWords words = earlier.isPresent() ? earlier.get().words() : place.selection(line);
    words = words.settled(session.clock().instant());
    if (line.hasOption("save-selection")) {
      SelectionSaver.check(
          Workplace.file(line, session),
          line.getOptionValue("save-selection"),
          place.selection(line),
          session.environment());
    }
    String into = earlier.map(e -> e.header().into()).orElse(line.getOptionValue("into", "live"));
    checkEverything(words, into);
    MaskedPeople.check(line, place, into, "No change set was written.");
    Result result = drafted(line, session, place, earlier, words, into);
    if (line.hasOption("save-selection")) {
      SelectionSaver.save(
          Workplace.file(line, session),
          line.getOptionValue("save-selection"),
          place.selection(line),
          session.environment());
    }
    return result;
  }

  private static Result drafted(
      CommandLine line,
      Session session,
      Workplace place,
      Optional<EarlierDraft> earlier,
      SelectionWords words,
      String into)
      throws Refusal, IOException {
    boolean twoWay =
        earlier.map(e -> e.header().base().isEmpty()).orElse(line.hasOption("two-way"));
    Receivers receivers =
        Sealing.receivers(
            line,
            session,
            earlier.map(e -> e.header().receivers()).orElse(List.of()),
            place.people());
    Sealing.checkSigned(line, session, receivers);
    MaskedPeople.say(place, into);
    return new DraftRun(
            new DraftRun.Task(
                DraftFile.of(line, session, place, receivers),
                into,
                twoWay,
                words,
                receivers,
                earlier),
            line,
            session,
            place)
        .run();
  }

  private static void checkArguments(CommandLine line, boolean again) throws Refusal {
    if (!again && !line.getArgList().isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "'"
              + line.getArgList().get(0)
              + "' is named, and a draft reads no file. Nothing was changed.",
          "Say --again to bring that change set up to date, or -o to write to it.");
    }
  }

  private static void checkEverything(SelectionWords words, String into) throws Refusal {
    if (words.isEverything() && into.equals("live")) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "--everything would bring staging's test orders, accounts and comments to live. No change set"
              + " was written.",
          "It is for 'weftex draft --into staging'; name what live is to have with --with.");
    }
  }

  /** Drafts a change set anew in which some rows that both copies added stay two things each. */
  public static Drafted apart(
      Path changeSet, List<RowName> rows, CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    FileClaim held = place.hold("draft", "drafting");
    try {
      SelectionWords both =
          new SelectionWords(
              Map.of(
                  SelectionWords.BOTH,
                  rows.stream().map(row -> row.table() + ":" + row.number()).toList()));
      EarlierDraft earlier = EarlierDraft.read(changeSet, place).with(both);
      List<String> before = earlier.header().receivers();
      Receivers receivers = before.isEmpty() ? place.people() : Receivers.of(before);
      Path file = DraftFile.fresh(session, place, receivers);
      boolean twoWay = earlier.header().base().isEmpty();
      DraftRun.Task task =
          new DraftRun.Task(
              file,
              earlier.header().into(),
              twoWay,
              earlier.words(),
              receivers,
              Optional.of(earlier));
      return new Drafted(file, new DraftRun(task, line, session, place).run());
    } finally {
      held.close();
    }
  }

  /** A new change set, and what is said of it. */
  public record Drafted(Path file, Result result) {}
}
