package weftex.core.compare;

import java.io.IOException;
import weftex.core.row.Row;

/** How the rows of a base have moved on since it was recorded, by the merges of the pair. */
public interface BaseMoves {
  /** Nothing has moved. */
  BaseMoves NONE =
      new BaseMoves() {
        @Override
        public boolean isMoved(int table) {
          return false;
        }

        @Override
        public Moved moved(int table, Row base) {
          return Moved.not(base);
        }
      };

  /**
   * Whether any row of a table has moved.
   *
   * @param table its position in the comparison
   */
  boolean isMoved(int table);

  /** A row of the base as the merges left it, in the target's terms as far as addresses go. */
  Moved moved(int table, Row base) throws IOException;

  /**
   * A row of the base.
   *
   * @param row the same row if no merge wrote it; absent if the last one removed it
   * @param isInTwoTerms whether a merge wrote cells that may mean another row on each copy, though
   *     they read alike: then the row must be looked at even where all sides are the same
   */
  record Moved(Row row, boolean isInTwoTerms) {

    /** A row that no merge wrote. */
    public static Moved not(Row base) {
      return new Moved(base, false);
    }
  }
}
