package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.util.List;
import weftex.cli.session.Took;
import weftex.store.apply.ApplyOutcome;
import weftex.store.engine.Drift;

/**
 * What became of an undo.
 *
 * @param undoes the receipt of the apply
 * @param receipt the undo's own; empty if nothing was left to take back
 * @param took how long it took, and how large the receipt is
 * @param files those that came back, have their old content, or are gone again
 * @param takenAway new tables and columns that are gone again, in words
 * @param things what was taken back; none if the change set is not there any more
 */
public record UndoReport(
    String undoes,
    String into,
    String receipt,
    Took took,
    @JsonUnwrapped Counts counts,
    List<Drift> leftAlone,
    ApplyOutcome.FileCounts files,
    List<String> takenAway,
    @JsonUnwrapped ApplyReport.Things things) {

  /** How many rows went, have their old values, or are there again. */
  public record Counts(long removed, long restored, long broughtBack) {}
}
