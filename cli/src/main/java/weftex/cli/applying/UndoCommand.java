package weftex.cli.applying;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.around.Around;
import weftex.cli.page.Progress;
import weftex.cli.render.UndoText;
import weftex.cli.result.UndoReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Unfinished;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.apply.UndoOutcome;
import weftex.store.apply.Undoer;
import weftex.store.copy.Copy;
import weftex.store.receipt.Receipt;

/** Takes an applied change set back. */
public final class UndoCommand implements Command {
  /** The receipt is passed over this often. */
  private static final int PASSES = 3;

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("by")
            .hasArg()
            .argName("NAME")
            .desc("who undoes (default: your user name)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("also-changed")
            .desc("take back rows that changed after the apply, too")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("even-if-no-rollback")
            .desc("write tables whose engine can't roll back, too")
            .get());
    ChosenChanges.addTo(options);
    return options;
  }

  @Override
  public Map<String, List<String>> headings() {
    return ChosenChanges.headings();
  }

  @Override
  public String arguments() {
    return "[RECEIPT] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex undo",
        "weftex undo --item 'page:Winter*'",
        "weftex undo 20261118-143012-204 --also-changed");
  }

  @Override
  public boolean isForOneSite(CommandLine line, Session session) {
    return true;
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    Receipt named = UndoChoice.chosen(place, line);
    Copy target = Copy.reach(MergedFile.database(place, named.into()));
    Unfinished.settle(place, target, true);
    Receipt applied = UndoChoice.chosen(place, line);
    UndoChoice.checkDone(applied, target);
    Optional<ChosenChanges> chosen = ChosenChanges.of(line, session, place, applied);
    chosen.ifPresent(changes -> say(changes, place));
    Undoer undoer =
        new Undoer(place.receipts(), session.gate(), Session.TOOL, Workplace.name(line, session));
    undoer = undoer.with(() -> Folders.access(place));
    long rows = applied.adds() + applied.updates() + applied.removes();
    UndoOutcome outcome;
    Around around =
        Around.undo(
            place.pair(), session, new Around.Way(applied.from(), applied.into(), applied.file()));
    try (around;
        Progress progress = Progress.start(session, "undoing on " + target.name(), PASSES * rows)) {
      outcome =
          undoer.undo(
              applied,
              target,
              place.siteMap(target),
              new Undoer.Terms(
                  line.hasOption("also-changed"),
                  line.hasOption("even-if-no-rollback"),
                  chosen.map(ChosenChanges::changes)),
              progress);
      boolean done = !outcome.receipt().isEmpty();
      around.ended(done ? "undone" : "refused", Optional.of(outcome.receipt()).filter(id -> done));
    }
    return reported(line, session, place, new Done(applied, target, outcome), around);
  }

  private Result reported(
      CommandLine line, Session session, Workplace place, Done done, Around around)
      throws Refusal, IOException {
    if (!done.outcome().vouchedFor()) {
      place.say(
          "The receipt was written by an older version, without its hash, so it could not be"
              + " checked that it is as it was written.");
    }
    UndoReport undone = UndoOutcomes.report(line, session, place, done);
    return new Result(
        undone.leftAlone().isEmpty() && around.isWell() ? ExitStatus.DONE : ExitStatus.TO_DECIDE,
        undone,
        page -> UndoText.print(page, undone));
  }

  /** What was taken back, and where. */
  record Done(Receipt applied, Copy target, UndoOutcome outcome) {}

  /** Says what is going to be taken back, before it is. */
  private static void say(ChosenChanges chosen, Workplace place) {
    place.say("Taking back " + UndoChoice.listed(chosen.chosen()) + "; the rest stays.");
    if (!chosen.along().isEmpty()) {
      place.say(
          "Goes along, since it can't stay without: " + UndoChoice.listed(chosen.along()) + ".");
    }
  }
}
