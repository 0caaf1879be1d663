package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.SelectionSaver;
import weftex.cli.config.SelectionWords;
import weftex.cli.render.DraftText;
import weftex.cli.result.DraftReport;
import weftex.cli.result.FilesReport;
import weftex.cli.result.InsideReport;
import weftex.cli.result.RolesReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.core.change.Action;
import weftex.core.change.Decision;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.changeset.ChangeSetReader;
import weftex.core.decide.CarriedDecisions;
import weftex.core.decide.TwoThings;
import weftex.core.file.FilePlan;
import weftex.core.plan.Plan;
import weftex.core.plan.Planner;
import weftex.core.plan.Selection;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.compare.ComparisonRun;
import weftex.store.compare.Drafting;
import weftex.store.compare.FileDrafting;
import weftex.store.seal.Receivers;
import weftex.store.state.FileClaim;

/** Writes a change set. */
final class DraftCommand implements Command {
  private static final String OVERWRITE = "overwrite";
  private static final String EMPTY = "even-if-nothing";
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ISO_LOCAL_DATE.withZone(ZoneOffset.UTC);

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
            .longOpt(OVERWRITE)
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
            .longOpt(EMPTY)
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
          line, session, place, receivers -> out(line, session, place, receivers));
    }
    Optional<EarlierDraft> earlier =
        line.hasOption("again") ? Optional.of(EarlierDraft.read(line, place)) : Optional.empty();
    if (earlier.isEmpty() && !line.getArgList().isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "'"
              + line.getArgList().get(0)
              + "' is named, and a draft reads no file. Nothing was changed.",
          "Say --again to bring that change set up to date, or -o to write to it.");
    }
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
    if (words.isEverything() && into.equals("live")) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "--everything would bring staging's test orders, accounts and comments to live. No change set"
              + " was written.",
          "It is for 'weftex draft --into staging'; name what live is to have with --with.");
    }
    MaskedPeople.check(line, place, into, "No change set was written.");
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
    Result result =
        draft(
            new Task(out(line, session, place, receivers), into, twoWay, words, receivers, earlier),
            line,
            session,
            place);
    if (line.hasOption("save-selection")) {
      SelectionSaver.save(
          Workplace.file(line, session),
          line.getOptionValue("save-selection"),
          place.selection(line),
          session.environment());
    }
    return result;
  }

  /**
   * What is drafted.
   *
   * @param file where it goes
   * @param into the copy that receives the changes
   * @param twoWay whether no base is looked at
   * @param words what is chosen
   * @param receivers for whom it is sealed
   * @param earlier the change set that is brought up to date
   */
  private record Task(
      Path file,
      String into,
      boolean twoWay,
      SelectionWords words,
      Receivers receivers,
      Optional<EarlierDraft> earlier) {}

  /** Drafts a change set anew in which some rows that both copies added stay two things each. */
  static Drafted apart(
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
      Path file =
          place.state().newChangeSet(DAY.format(session.clock().instant()), !receivers.isNobody());
      boolean twoWay = earlier.header().base().isEmpty();
      Task task =
          new Task(
              file,
              earlier.header().into(),
              twoWay,
              earlier.words(),
              receivers,
              Optional.of(earlier));
      return new Drafted(file, draft(task, line, session, place));
    } finally {
      held.close();
    }
  }

  /** A new change set, and what is said of it. */
  record Drafted(Path file, Result result) {}

  private static Result draft(Task task, CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    Optional<Result> drafted = Optional.empty();
    Map<String, String> renames = new TreeMap<>();
    while (drafted.isEmpty()) {
      drafted = draft(task, renames, line, session, place);
    }
    return drafted.get();
  }

  /**
   * Drafts, unless files turn out to need another name.
   *
   * @param renames takes their names
   */
  private static Optional<Result> draft(
      Task task, Map<String, String> renames, CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    SelectionWords words = task.words();
    Selection selection = words.selection(session.clock().instant());
    DraftReport report;
    try (ComparisonRun run =
        new Comparing(place, line)
            .run(
                task.into(),
                task.twoWay(),
                selection,
                ComparisonRun.Manner.USUAL.asksAgain(words.asksAgain()).renaming(renames),
                !task.receivers().isNobody())) {
      Planner planner = run.planner(words.apart(), words.same());
      NothingMeant.check(run, planner);
      Plan plan = apart(run, words, selection, planner.choose(selection), place);
      NothingMeant.check(run, plan, selection);
      FilePlan.Files files =
          FileDrafting.of(run, plan, selection, words.files(place.pair().files()));
      if (!files.renames().isEmpty()) {
        // Whatever names them has to follow, so all is compared once more.
        Folders.takeNames(files.renames(), renames);
        return Optional.empty();
      }
      boolean pairs = !words.same().isEmpty();
      int all = plan.size() + plan.schema().size() + files.changes().size();
      if (all == 0 && !pairs && !line.hasOption(EMPTY)) {
        throw nothing(run);
      }
      Drafting.Written written =
          Drafting.write(
              task.file(),
              run,
              plan,
              files,
              new Drafting.Terms(
                  place.pair().site(),
                  session.now(),
                  Session.TOOL,
                  words.said(),
                  place.pair().rules(),
                  task.earlier().map(EarlierDraft::decisions),
                  task.receivers(),
                  words.isEverything()));
      report =
          report(place, task, run, plan, written, FilesReport.of(files, run.folders().problem()));
    }
    Signing.draft(task.file(), line, session, place);
    return Optional.of(
        new Result(
            report.conflicts() > 0 ? ExitStatus.TO_DECIDE : ExitStatus.DONE,
            report,
            page -> DraftText.print(page, report)));
  }

  /** The plan in which rows stay things of their own where standing rules say so. */
  private static Plan apart(
      ComparisonRun run, SelectionWords words, Selection selection, Plan plan, Workplace place)
      throws IOException, Refusal {
    TwoThings things = new TwoThings(place.pair().rules());
    if (things.isNothing()) {
      return plan;
    }
    plan.forEach(
        change -> {
          Table table = run.site().table(change.table()).table();
          things.see(change, table.isNumbered() ? table.columns().get(table.number()).name() : "");
        });
    Set<RowName> all = new HashSet<>(words.apart());
    return all.addAll(things.rows()) ? run.planner(all, words.same()).choose(selection) : plan;
  }

  private static Path out(CommandLine line, Session session, Workplace place, Receivers receivers)
      throws Refusal, IOException {
    if (line.hasOption("out")) {
      Path file = session.folder().resolve(line.getOptionValue("out"));
      // What --again brings up to date keeps its decisions, so it may go where it was.
      boolean itself = line.hasOption("again") && file.equals(NamedChangeSet.of(line, place));
      if (Files.exists(file) && !itself) {
        checkReplaceable(file, place, line.hasOption(OVERWRITE));
      }
      return file;
    }
    return place.state().newChangeSet(DAY.format(session.clock().instant()), !receivers.isNobody());
  }

  /** A draft may be written anew; what people decided, and other files, may not be lost. */
  private static void checkReplaceable(Path file, Workplace place, boolean overwrite)
      throws Refusal {
    boolean held;
    if (!Files.isRegularFile(file)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          place.shown(file) + " is no ordinary file. Nothing was changed.",
          "Name another one with -o.");
    }
    if (overwrite) {
      return;
    }
    try {
      ChangeSetReader.Contents contents = ChangeSetFile.read(file, place.keys()).contents();
      held =
          !contents.approvals().isEmpty()
              || !contents.decisions().stream().allMatch(Decision::isByRule);
    } catch (Refusal e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file) + " is there already and is no whole change set. Nothing was changed.",
          "Name another file, or say --" + OVERWRITE + ".");
    }
    if (held) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file)
              + " holds decisions that a new draft would not have. Nothing was changed.",
          "Name another file, bring it up to date with --again, or say --" + OVERWRITE + ".");
    }
  }

  private static Refusal nothing(ComparisonRun run) {
    return new Refusal(
        Refusal.Kind.NOTHING,
        "Nothing that was chosen differs between "
            + run.source().name()
            + " and "
            + run.target().name()
            + ". No change set was written.",
        "See 'weftex compare' for what differs, or choose more.");
  }

  private static DraftReport report(
      Workplace place,
      Task task,
      ComparisonRun run,
      Plan plan,
      Drafting.Written written,
      FilesReport files)
      throws IOException {
    Path file = task.file();
    int open = written.review().count(Review.Standing.OPEN);
    return new DraftReport(
        place.shown(file),
        NamedChangeSet.argument(place, file),
        run.source().name(),
        run.target().name(),
        plan.size() + plan.schema().size() + (int) files.all(),
        plan.schema().stream().map(change -> change.item().words()).toList(),
        plan.count(Action.ADD),
        plan.count(Action.UPDATE),
        plan.count(Action.REMOVE),
        open,
        plan.offered(),
        written.ruled(),
        files,
        written.kept().stream()
            .map(id -> written.review().thing(id).map(Item::words).orElse("change " + id))
            .distinct()
            .toList(),
        written.carried().carried().stream().mapToLong(d -> d.changes().size()).sum(),
        written.carried().fallen().stream().map(DraftCommand::fallen).toList(),
        InsideReport.of(run, plan),
        RolesReport.of(run, plan),
        task.receivers().names(),
        Sealing.opens(place.keys(), task.receivers()),
        place.took(file));
  }

  private static DraftReport.Fallen fallen(CarriedDecisions.Fallen fallen) {
    return new DraftReport.Fallen(
        fallen.change(),
        fallen.thing().words(),
        fallen.decision().answer().label(),
        fallen.decision().column().orElse(""),
        fallen.decision().by(),
        fallen.decision().why(),
        fallen.because());
  }
}
