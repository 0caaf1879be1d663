package weftex.core.compare;

import java.io.IOException;
import weftex.core.row.RowStream;
import weftex.core.row.Table;

/** One of the three sides of a comparison. */
public interface Side {

  /** Opens the rows of a table, with the columns and in the key order that {@code table} says. */
  RowStream open(Table table) throws IOException;
}
