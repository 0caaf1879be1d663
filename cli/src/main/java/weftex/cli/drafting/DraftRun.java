package weftex.cli.drafting;

import java.io.IOException;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.apache.commons.cli.CommandLine;
import weftex.cli.config.SelectionWords;
import weftex.cli.render.DraftText;
import weftex.cli.result.DraftReport;
import weftex.cli.result.FilesReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Signing;
import weftex.cli.workplace.Workplace;
import weftex.core.decide.TwoThings;
import weftex.core.file.FilePlan;
import weftex.core.plan.Plan;
import weftex.core.plan.Planner;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.core.select.Selection;
import weftex.store.Refusal;
import weftex.store.compare.ComparisonRun;
import weftex.store.compare.Drafting;
import weftex.store.compare.FileDrafting;
import weftex.store.seal.Receivers;

/** Compares, chooses and writes a change set. */
final class DraftRun {
  static final String EMPTY = "even-if-nothing";

  private final Task task;
  private final CommandLine line;
  private final Session session;
  private final Workplace place;

  DraftRun(Task task, CommandLine line, Session session, Workplace place) {
    this.task = task;
    this.line = line;
    this.session = session;
    this.place = place;
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
  record Task(
      Path file,
      String into,
      boolean twoWay,
      SelectionWords words,
      Receivers receivers,
      Optional<EarlierDraft> earlier) {}

  /** Drafts. */
  Result run() throws Refusal, IOException {
    Optional<Result> drafted = Optional.empty();
    Map<String, String> renames = new TreeMap<>();
    while (drafted.isEmpty()) {
      drafted = draft(renames);
    }
    return drafted.get();
  }

  /**
   * Drafts, unless files turn out to need another name.
   *
   * @param renames takes their names
   */
  private Optional<Result> draft(Map<String, String> renames) throws Refusal, IOException {
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
      Plan plan = apart(run, selection, planner.choose(selection));
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
      Drafting.Written written = written(words, run, plan, files);
      report =
          new DraftOutcome(task, place)
              .report(run, plan, written, FilesReport.of(files, run.folders().problem()));
    }
    Signing.draft(task.file(), line, session, place);
    return Optional.of(
        new Result(
            report.open().conflicts() > 0 ? ExitStatus.TO_DECIDE : ExitStatus.DONE,
            report,
            page -> DraftText.print(page, report)));
  }

  private Drafting.Written written(
      SelectionWords words, ComparisonRun run, Plan plan, FilePlan.Files files)
      throws Refusal, IOException {
    return Drafting.write(
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
  }

  /** The plan in which rows stay things of their own where standing rules say so. */
  private Plan apart(ComparisonRun run, Selection selection, Plan plan)
      throws IOException, Refusal {
    SelectionWords words = task.words();
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
}
