package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.around.Around;
import weftex.cli.page.Progress;
import weftex.cli.render.ApplyText;
import weftex.cli.result.ApplyReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.session.Took;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Unfinished;
import weftex.cli.workplace.Workplace;
import weftex.core.change.ChangeSetHeader;
import weftex.core.file.FileRows;
import weftex.core.scan.FindingKind;
import weftex.store.Refusal;
import weftex.store.apply.Applier;
import weftex.store.apply.ApplyOutcome;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.copy.Copy;
import weftex.store.database.CatalogTable;
import weftex.store.database.Trigger;
import weftex.store.receipt.Receipt;
import weftex.store.scan.TouchedScan;

/** Applies an approved change set. */
public final class ApplyCommand implements Command {
  private static final String CONFIRM = "confirm";
  private static final String SIGNERS = "signers";

  /** The file is passed over this often. */
  private static final int PASSES = 3;

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("by")
            .hasArg()
            .argName("NAME")
            .desc("who applies (default: your user name)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("even-if-no-rollback")
            .desc("write tables whose engine can't roll back, too")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("rows")
            .desc("also list the rows that got another ID, and what followed in which column")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(SIGNERS)
            .hasArg()
            .argName("FILE")
            .desc("whose signed approvals count, in place of what weftex.yaml says")
            .get());
    MergedFile.options().forEach(options::addOption);
    options.addOption(
        Option.builder()
            .longOpt(CONFIRM)
            .desc("say whether the script of the last apply ran, by the newest export")
            .get());
    return options;
  }

  private static Optional<Path> signers(CommandLine line, Session session) {
    return Optional.ofNullable(line.getOptionValue(SIGNERS)).map(session.folder()::resolve);
  }

  @Override
  public String arguments() {
    return "[FILE] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex apply",
        "weftex apply redesign.jsonl --by 'Mira Tangen'",
        "weftex apply --script merge.sql");
  }

  @Override
  public boolean isForOneSite(CommandLine line, Session session) {
    return !line.getArgList().isEmpty() || line.hasOption("o") || line.hasOption("script");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    if (line.hasOption(CONFIRM)) {
      return Confirmation.of(place);
    }
    Path file = NamedChangeSet.of(line, place);
    // The target is reached while the file, which may be large, is read.
    ChangeSetHeader header = ChangeSetFile.header(file, place.keys());
    Copy.Reaching reaching = Copy.reaching(place.pair().copy(header.into()));
    ChangeSetFile reviewed = ChangeSetFile.readWhole(file, place.keys());
    Copy target = reaching.await();
    Optional<MergedFile> merged = MergedFile.of(line, session, place, target);
    Unfinished.settle(place, target, true);
    Applier applier = applier(line, session, place, reviewed, merged);
    sayTriggers(reviewed, place, target);
    Map<FindingKind, Long> forecast = forecast(reviewed, place, target);
    ApplyOutcome outcome;
    Around around = around(reviewed, place, session, file);
    try (around) {
      if (isGoing(reviewed, place)) {
        PointBefore.save(place, session, target);
      }
      if (merged.isPresent()) {
        merged.get().begin();
      }
      outcome = applied(applier, reviewed, target, line, place, session);
      if (merged.isPresent() && outcome instanceof ApplyOutcome.Applied done) {
        merged.get().write(done.receipt());
      }
      around.ended(
          outcome instanceof ApplyOutcome.Drifted ? "refused" : "applied",
          outcome instanceof ApplyOutcome.Applied done
              ? Optional.of(done.receipt())
              : Optional.empty());
    }
    if (outcome instanceof ApplyOutcome.Applied) {
      PointBefore.tidy(place, target);
    }
    ApplyReport report =
        AppliedReport.of(
            outcome,
            new ApplyReport.Where(place.shown(file), header.from(), header.into()),
            made(outcome, reviewed),
            outcome instanceof ApplyOutcome.Applied done
                ? place.took(place.receipts().file(done.receipt()))
                : new Took(0, 0),
            touched(outcome, forecast, place, target));
    return new Result(
        report instanceof ApplyReport.Drifted || !around.isWell()
            ? ExitStatus.TO_DECIDE
            : ExitStatus.DONE,
        report,
        page ->
            ApplyText.print(
                page, report, line.hasOption("rows"), merged.map(MergedFile::toImport)));
  }

  private static Applier applier(
      CommandLine line,
      Session session,
      Workplace place,
      ChangeSetFile reviewed,
      Optional<MergedFile> merged)
      throws Refusal, IOException {
    Applier applier =
        new Applier(place.receipts(), session.gate(), Session.TOOL, Workplace.name(line, session))
            .needing(place.pair().approvals().rule(signers(line, session)));
    if (merged.isPresent()) {
      applier = merged.get().leavingRoom(applier);
    }
    return applier.with(
        reviewed.outlines().stream().anyMatch(FileRows::isFile)
            ? Folders.access(place)
            : Folders.unneeded(place));
  }

  private static ApplyOutcome applied(
      Applier applier,
      ChangeSetFile reviewed,
      Copy target,
      CommandLine line,
      Workplace place,
      Session session)
      throws Refusal, IOException {
    try (Progress progress =
        Progress.start(
            session,
            "applying to " + target.name(),
            (long) PASSES * reviewed.contents().changes())) {
      return applier.apply(
          reviewed,
          place.pair().site(),
          target,
          place::siteMap,
          line.hasOption("even-if-no-rollback"),
          progress);
    }
  }

  /** An apply that is not going to happen needs no holding page. */
  private static Around around(ChangeSetFile reviewed, Workplace place, Session session, Path file)
      throws Refusal, IOException {
    ChangeSetHeader header = reviewed.contents().header();
    return isGoing(reviewed, place)
        ? Around.apply(
            place.pair(),
            place.state(),
            session,
            new Around.Way(header.from(), header.into(), file.toString()))
        : Around.nothing(place.pair(), session);
  }

  /** Says what else the server is going to do when rows are written. */
  private static void sayTriggers(ChangeSetFile reviewed, Workplace place, Copy target)
      throws Refusal, IOException {
    if (!isGoing(reviewed, place)) {
      return;
    }
    for (ChangeSetHeader.TableColumns written : reviewed.contents().header().tables()) {
      for (Trigger trigger :
          target.catalog().find(written.name()).map(CatalogTable::triggers).orElse(List.of())) {
        place.say(
            "Table "
                + target.spec().prefix()
                + written.name()
                + " has the trigger "
                + trigger.words()
                + " on "
                + target.name()
                + ", which may change more than the change set says"
                + (trigger.names().isEmpty()
                    ? "."
                    : ": it names " + String.join(", ", new TreeSet<>(trigger.names())) + "."));
      }
    }
  }

  /**
   * What will be wrong in the touched rows, said before anything is written; an apply that is not
   * going to happen needs none.
   */
  private static Map<FindingKind, Long> forecast(
      ChangeSetFile reviewed, Workplace place, Copy target) throws Refusal, IOException {
    if (!isGoing(reviewed, place)) {
      return Map.of();
    }
    Map<FindingKind, Long> forecast =
        TouchedScan.forecast(
            reviewed,
            target,
            place.pair().model(),
            place.pair().addresses(),
            place.pair().other(target.name()));
    forecast.forEach(
        (kind, rows) ->
            place.say(
                "Expected in touched rows: "
                    + kind.label()
                    + " in "
                    + rows
                    + (rows == 1 ? " row." : " rows.")));
    return forecast;
  }

  /** Whether anything is going to be written, as far as the file and this folder know. */
  private static boolean isGoing(ChangeSetFile reviewed, Workplace place)
      throws Refusal, IOException {
    return reviewed.contents().isApproved() && !reviewed.isNothing() && !isApplied(reviewed, place);
  }

  /** Whether the last that this folder knows of a change set is that it was applied. */
  private static boolean isApplied(ChangeSetFile reviewed, Workplace place)
      throws Refusal, IOException {
    boolean applied = false;
    for (Receipt receipt : place.receipts().all()) {
      boolean same = receipt.changeSet().equals(reviewed.contents().draft());
      if (same && receipt.outcome() == Receipt.Outcome.COMMITTED) {
        applied = receipt.kind().equals("apply");
      }
    }
    return applied;
  }

  private static ApplyReport.Things made(ApplyOutcome outcome, ChangeSetFile reviewed) {
    return outcome instanceof ApplyOutcome.Applied done
        ? MadeThings.made(reviewed, done.renumbered())
        : ApplyReport.Things.NONE;
  }

  /** What is done is done: a scan that fails afterwards says nothing. */
  private static Map<String, ApplyReport.Touched> touched(
      ApplyOutcome outcome, Map<FindingKind, Long> forecast, Workplace place, Copy target) {
    if (!(outcome instanceof ApplyOutcome.Applied done)) {
      return Map.of();
    }
    try {
      return ApplyReport.Touched.of(
          TouchedScan.run(
              place.receipts(),
              done.receipt(),
              target,
              place.pair().model(),
              place.pair().addresses(),
              place.pair().other(target.name())),
          forecast);
    } catch (Refusal | IOException e) {
      return Map.of();
    }
  }
}
