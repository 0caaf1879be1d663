package weftex.core.plan;

import java.util.Optional;
import weftex.core.row.Row;
import weftex.core.row.RowName;

/** A row that the source has added, and what becomes of it on the target. */
final class Newcomer {
  final int table;
  final long at;

  /** By which the source knows it; empty where rows have no numbers. */
  final Optional<RowName> name;

  Fate fate;
  boolean deciding;

  Newcomer(int table, long at, Optional<RowName> name) {
    this.table = table;
    this.at = at;
    this.name = name;
  }

  /** What becomes of a row that the source has added. */
  sealed interface Fate {}

  /**
   * It is new to the target and gets a number there.
   *
   * @param renumbered whether its own number is taken
   */
  record Numbered(RowName name, boolean renumbered) implements Fate {}

  /** It is new to the target under its own key, which is no number. */
  record Keyed() implements Fate {}

  /**
   * An earlier merge made it on the target, which has removed it since.
   *
   * @param twin what it was there; empty for a row whose key is no number
   */
  record Gone(Optional<PastMerges.Twin> twin) implements Fate {
    /** Whether the target has given its number to another row. */
    boolean isReplaced() {
      return twin.map(PastMerges.Twin::replaced).orElse(false);
    }
  }

  /**
   * The target has the same thing.
   *
   * @param row the target's row
   * @param removedAt where the log says that the source removed that very row and made it anew; -1
   *     if both copies added it
   */
  record Matched(Row row, long removedAt) implements Fate {}
}
