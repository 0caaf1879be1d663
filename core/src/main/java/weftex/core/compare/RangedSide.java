package weftex.core.compare;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import weftex.core.row.RowStream;
import weftex.core.row.Table;

/**
 * A side that can tell, without handing out its rows, which ranges of a table are as on another
 * side.
 */
public interface RangedSide extends Side {

  /**
   * Digests of a table whose key is a single whole number.
   *
   * @param width how many keys a range spans; 0 for the side's own choice
   * @return empty if the side has none for this table, which is then read row by row
   */
  Optional<RangeDigests> digests(Table table, long width) throws IOException;

  /**
   * Opens only the rows in some ranges.
   *
   * @param ranges ascending, not overlapping
   */
  RowStream open(Table table, List<KeyRange> ranges) throws IOException;
}
