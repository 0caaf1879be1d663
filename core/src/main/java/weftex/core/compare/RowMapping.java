package weftex.core.compare;

import weftex.core.row.Row;

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
   * Is told of a row that will move, as it is on its own copy, so that what was mapped in it can be
   * counted.
   */
  default void moves(int table, Row row) {}
}
