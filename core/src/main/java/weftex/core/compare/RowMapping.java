package weftex.core.compare;

import java.io.IOException;
import java.util.List;
import weftex.core.row.Row;
import weftex.core.row.Value;

/** Puts rows of one copy into the terms of the other. */
public interface RowMapping {
  /** Changes nothing. */
  RowMapping NONE = (table, row) -> row;

  /**
   * The row in the other copy's terms.
   *
   * @param table its table's position in the comparison
   * @return the same row if nothing changes
   */
  Row map(int table, Row row);

  /**
   * A row of the other copy in its own terms where it may hold what is this copy's: an address that
   * somebody took along.
   */
  default Row ownOfOther(int table, Row ofOther) {
    return map(table, ofOther);
  }

  /**
   * A value of a row of the other copy as it would come from this one: mapped there and back. Where
   * that is another value, both mean the same.
   */
  default Value thereAndBack(int table, List<Value> row, int column) {
    return row.get(column);
  }

  /** Whether {@link #thereAndBack} may give other values for a row; most have none. */
  default boolean mayComeOtherwise(int table, Row row) {
    return false;
  }

  /** Whether personal data in a row, as it is on its own copy, are made up there. */
  default boolean isMadeUp(int table, List<Value> row) {
    return false;
  }

  /**
   * Is told of a row that will move, as it is on its own copy, so that what was mapped in it can be
   * counted.
   */
  default void moves(int table, Row row) throws IOException {}
}
