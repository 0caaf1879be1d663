package weftex.store.apply;

import java.math.BigInteger;
import java.util.List;
import java.util.Map;
import weftex.core.change.SchemaChange;
import weftex.core.row.RowName;
import weftex.store.engine.Drift;
import weftex.store.receipt.Effect;
import weftex.store.rows.Ledger;

/** How an apply ended, if nothing failed. */
public sealed interface ApplyOutcome {

  /**
   * The changes are made.
   *
   * @param receipt the receipt's id
   * @param schema new tables and columns that were made
   * @param renumbered added rows that did not get their own number, with the one they got
   * @param effects counters that were recounted and caches that were made empty
   * @param steps what is left for a person
   * @param files what became of files
   * @param altered rows in which the server itself set other columns, for instance by a trigger
   */
  record Applied(
      String receipt,
      List<SchemaChange> schema,
      long adds,
      long updates,
      long removes,
      FileCounts files,
      Map<RowName, BigInteger> renumbered,
      List<Drift> altered,
      List<Effect> effects,
      List<String> steps)
      implements ApplyOutcome {}

  /**
   * What became of files.
   *
   * @param leftAlone those that are not as they were to be, and why
   */
  record FileCounts(int added, int replaced, int removed, List<Drift> leftAlone) {
    public static final FileCounts NONE = new FileCounts(0, 0, 0, List.of());
  }

  /** This change set was applied before, and nothing was done. */
  record AlreadyApplied(Ledger.Entry entry) implements ApplyOutcome {}

  /** There is nothing to make, and nothing that it would settle; no receipt was written. */
  record Nothing() implements ApplyOutcome {}

  /** Rows moved since the review; nothing was changed. */
  record Drifted(List<Drift> drifts, long more) implements ApplyOutcome {
    private static final int LISTED = 100;

    /** Files that moved. */
    static Drifted of(List<Drift> all) {
      int listed = Math.min(LISTED, all.size());
      return new Drifted(List.copyOf(all.subList(0, listed)), all.size() - listed);
    }
  }
}
