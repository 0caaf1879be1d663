package weftex.store.apply;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import weftex.core.change.SchemaChange;
import weftex.store.engine.Drift;
import weftex.store.engine.SchemaStage;

/**
 * How an undo ended.
 *
 * @param receipt the undo's own receipt; empty if there was nothing left to take back
 * @param removed added rows that were removed again
 * @param restored updated rows that have their old values again
 * @param broughtBack removed rows that are there again
 * @param leftAlone rows that changed after the apply, with the reason; new tables and columns that
 *     are in use
 * @param files what became of files: brought back, given their old content, removed
 * @param takenAway new tables and columns that are gone again
 * @param changes the changes of which something was taken back, by number, with the key that their
 *     row had on the target
 * @param vouchedFor whether the target's ledger knew the receipt by its hash; an older version
 *     wrote none
 */
public record UndoOutcome(
    String receipt,
    long removed,
    long restored,
    long broughtBack,
    List<Drift> leftAlone,
    ApplyOutcome.FileCounts files,
    List<SchemaChange> takenAway,
    Map<Integer, String> changes,
    boolean vouchedFor) {

  /** The same outcome, with what became of new tables and columns. */
  UndoOutcome with(SchemaStage.TakenAway away, String copy) {
    List<Drift> left = new ArrayList<>(leftAlone);
    left.addAll(away.leftAlone(copy));
    return new UndoOutcome(
        receipt, removed, restored, broughtBack, left, files, away.gone(), changes, vouchedFor);
  }

  /** The same outcome, with what became of files. */
  UndoOutcome with(ApplyOutcome.FileCounts ofFiles) {
    List<Drift> left = new ArrayList<>(leftAlone);
    left.addAll(ofFiles.leftAlone());
    return new UndoOutcome(
        receipt, removed, restored, broughtBack, left, ofFiles, takenAway, changes, vouchedFor);
  }

  /** The same outcome, and whether the ledger vouched for the receipt. */
  UndoOutcome vouchedFor(boolean vouched) {
    return new UndoOutcome(
        receipt, removed, restored, broughtBack, leftAlone, files, takenAway, changes, vouched);
  }
}
