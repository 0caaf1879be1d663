package weftex.cli.applying;

import java.io.IOException;
import org.apache.commons.cli.CommandLine;
import weftex.cli.result.ApplyReport;
import weftex.cli.result.UndoReport;
import weftex.cli.session.Session;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.apply.UndoOutcome;
import weftex.store.receipt.Receipt;

/** What is said of an undo. */
final class UndoOutcomes {

  private UndoOutcomes() {}

  static UndoReport report(
      CommandLine line, Session session, Workplace place, UndoCommand.Done done)
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
  static ApplyReport.Things things(
      CommandLine line, Session session, Workplace place, Receipt applied, UndoOutcome outcome) {
    try {
      return MadeThings.takenBack(
          ChosenChanges.applied(line, session, place, applied), outcome.changes());
    } catch (Refusal e) {
      return ApplyReport.Things.NONE;
    }
  }
}
