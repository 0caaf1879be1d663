package weftex.core.compare;

import weftex.core.row.Row;

/**
 * A row that is not the same on all three sides; a side that lacks it has {@link Row#ABSENT}.
 *
 * @param table its table's position in the comparison
 */
public record Difference(int table, Row base, Row source, Row target) {

  /** Whether the source changed, added or removed the row. */
  public boolean bySource() {
    return !base.sameValues(source);
  }

  /** Whether the target changed, added or removed the row. */
  public boolean byTarget() {
    return !base.sameValues(target);
  }
}
