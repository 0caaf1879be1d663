package weftex.core.row;

import java.io.IOException;

/**
 * The rows of one table on one side, in strictly ascending order of their keys (ascending without a
 * key).
 */
public interface RowStream extends AutoCloseable {

  /** The stream of a side that lacks the table. */
  RowStream EMPTY =
      new RowStream() {
        @Override
        public Row next() {
          return Row.ABSENT;
        }

        @Override
        public void close() {}
      };

  /**
   * The next row, or {@link Row#ABSENT} after the last.
   *
   * @throws IOException if the side can't be read any further
   */
  Row next() throws IOException;

  @Override
  void close() throws IOException;
}
