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
        public Row moved(int table, Row base) {
          return base;
        }
      };

  /**
   * Whether any row of a table has moved.
   *
   * @param table its position in the comparison
   */
  boolean isMoved(int table);

  /**
   * A row of the base as the merges left it, in the target's terms as far as addresses go.
   *
   * @return the same row if no merge wrote it; absent if the last one removed it
   */
  Row moved(int table, Row base) throws IOException;
}
