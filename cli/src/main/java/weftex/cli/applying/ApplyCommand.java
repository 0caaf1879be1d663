package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
    Forecast.sayTriggers(reviewed, place, target);
    Map<FindingKind, Long> forecast = Forecast.forecast(reviewed, place, target);
    Around around = around(reviewed, place, session, file);
    ApplyOutcome outcome;
    try (around) {
      if (Forecast.isGoing(reviewed, place)) {
        PointBefore.save(place, session, target);
      }
      if (merged.isPresent()) {
        merged.get().begin();
      }
      outcome = applied(applier, reviewed, target, line, place, session);
      ended(outcome, merged, around);
    }
    if (outcome instanceof ApplyOutcome.Applied) {
      PointBefore.tidy(place, target);
    }
    ApplyReport report = report(place, file, reviewed, target, forecast, outcome);
    return reported(report, around.isWell(), line.hasOption("rows"), merged);
  }

  private static ApplyReport report(
      Workplace place,
      Path file,
      ChangeSetFile reviewed,
      Copy target,
      Map<FindingKind, Long> forecast,
      ApplyOutcome outcome)
      throws Refusal, IOException {
    return AppliedReport.of(
        outcome,
        new ApplyReport.Where(
            place.shown(file), reviewed.header().from(), reviewed.header().into()),
        made(outcome, reviewed),
        outcome instanceof ApplyOutcome.Applied done
            ? place.took(place.receipts().file(done.receipt()))
            : new Took(0, 0),
        Forecast.touched(outcome, forecast, place, target));
  }

  private static void ended(ApplyOutcome outcome, Optional<MergedFile> merged, Around around)
      throws Refusal, IOException {
    if (outcome instanceof ApplyOutcome.Applied done) {
      if (merged.isPresent()) {
        merged.get().write(done.receipt());
      }
      around.ended("applied", Optional.of(done.receipt()));
    } else {
      around.ended(
          outcome instanceof ApplyOutcome.Drifted ? "refused" : "applied", Optional.empty());
    }
  }

  private static Result reported(
      ApplyReport report, boolean isWell, boolean rows, Optional<MergedFile> merged) {
    return new Result(
        report instanceof ApplyReport.Drifted || !isWell ? ExitStatus.TO_DECIDE : ExitStatus.DONE,
        report,
        page -> ApplyText.print(page, report, rows, merged.map(MergedFile::toImport)));
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
    return Forecast.isGoing(reviewed, place)
        ? Around.apply(
            place.pair(),
            place.state(),
            session,
            new Around.Way(header.from(), header.into(), file.toString()))
        : Around.nothing(place.pair(), session);
  }

  private static ApplyReport.Things made(ApplyOutcome outcome, ChangeSetFile reviewed) {
    return outcome instanceof ApplyOutcome.Applied done
        ? MadeThings.made(reviewed, done.renumbered())
        : ApplyReport.Things.NONE;
  }
}
