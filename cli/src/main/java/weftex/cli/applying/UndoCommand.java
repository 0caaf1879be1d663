package weftex.cli.applying;

import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.around.Around;
import weftex.cli.page.Progress;
import weftex.cli.render.UndoText;
import weftex.cli.result.ApplyReport;
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
    Receipt named = chosen(place, line);
    Copy target = Copy.reach(MergedFile.database(place, named.into()));
    Unfinished.settle(place, target, true);
    Receipt applied = chosen(place, line);
    checkDone(applied, target);
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
    UndoReport undone = report(line, session, place, done);
    return new Result(
        undone.leftAlone().isEmpty() && around.isWell() ? ExitStatus.DONE : ExitStatus.TO_DECIDE,
        undone,
        page -> UndoText.print(page, undone));
  }

  private static void checkDone(Receipt applied, Copy target) throws Refusal {
    if (applied.outcome() == Receipt.Outcome.UNKNOWN) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The apply "
              + applied.id()
              + " is still at work on "
              + target.name()
              + ", or was interrupted while another run is. Nothing was changed.",
          "Wait until that has ended, and run 'weftex history'.");
    }
    if (applied.outcome() != Receipt.Outcome.COMMITTED) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The apply "
              + applied.id()
              + " was rolled back, so there is nothing to undo. Nothing was changed.",
          "'weftex history' lists what was applied.");
    }
  }

  /** What was taken back, and where. */
  private record Done(Receipt applied, Copy target, UndoOutcome outcome) {}

  private static UndoReport report(CommandLine line, Session session, Workplace place, Done done)
      throws Refusal, IOException {
    Receipt applied = done.applied();
    UndoOutcome outcome = done.outcome();
    return new UndoReport(
        applied.id(),
        done.target().name(),
        outcome.receipt(),
        place.took(place.receipts().file(outcome.receipt())),
        new UndoReport.Counts(outcome.removed(), outcome.restored(), outcome.broughtBack()),
        outcome.leftAlone(),
        outcome.files(),
        outcome.takenAway().stream().map(change -> change.item().words()).toList(),
        outcome.receipt().isEmpty()
            ? ApplyReport.Things.NONE
            : things(line, session, place, applied, outcome));
  }

  /** What was taken back, as far as the change set is still there to say it. */
  private static ApplyReport.Things things(
      CommandLine line, Session session, Workplace place, Receipt applied, UndoOutcome outcome) {
    try {
      return MadeThings.takenBack(
          ChosenChanges.applied(line, session, place, applied), outcome.changes());
    } catch (Refusal e) {
      return ApplyReport.Things.NONE;
    }
  }

  /** Says what is going to be taken back, before it is. */
  private static void say(ChosenChanges chosen, Workplace place) {
    place.say("Taking back " + listed(chosen.chosen()) + "; the rest stays.");
    if (!chosen.along().isEmpty()) {
      place.say("Goes along, since it can't stay without: " + listed(chosen.along()) + ".");
    }
  }

  private static String listed(Map<String, Integer> things) {
    return String.join(
        ", ",
        things.entrySet().stream()
            .map(
                thing ->
                    thing.getKey()
                        + (thing.getValue() == 1 ? "" : " (" + thing.getValue() + " rows)"))
            .toList());
  }

  /** The apply that is named, or the last one that was not undone. */
  private static Receipt chosen(Workplace place, CommandLine line) throws Refusal, IOException {
    List<Receipt> all = place.receipts().all();
    if (!line.getArgList().isEmpty()) {
      String id = line.getArgList().get(0);
      return all.stream()
          .filter(receipt -> receipt.id().equals(id) && receipt.kind().equals("apply"))
          .findFirst()
          .orElseThrow(
              () ->
                  new Refusal(
                      Refusal.Kind.WRONG_INPUT,
                      "There is no receipt '" + id + "' of an apply. Nothing was changed.",
                      "'weftex history' lists them."));
    }
    Set<String> undone = new HashSet<>();
    all.stream()
        .filter(receipt -> receipt.outcome() == Receipt.Outcome.COMMITTED && !receipt.part())
        .forEach(receipt -> receipt.undoes().ifPresent(undone::add));
    Receipt last = null;
    for (Receipt receipt : all) {
      boolean open =
          receipt.outcome() != Receipt.Outcome.ROLLED_BACK && !undone.contains(receipt.id());
      last = receipt.kind().equals("apply") && open ? receipt : last;
    }
    if (last == null) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "Nothing was applied here that is not undone already. Nothing was changed.",
          "'weftex history' lists what was done.");
    }
    return last;
  }
}
