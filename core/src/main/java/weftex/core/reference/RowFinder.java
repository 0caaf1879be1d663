package weftex.core.reference;

import java.io.IOException;
import java.util.List;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;

/** Finds rows of a copy by the values of some columns, in the state that was compared. */
public interface RowFinder {

  /**
   * The rows whose columns equal the values as the server compares them, in no particular order.
   *
   * @param columns positions in the table
   * @param values none of them NULL or {@link Value.Fresh}, in the order of the columns
   * @param limit how many rows at the most
   */
  List<Row> find(Table table, List<Integer> columns, List<Value> values, int limit)
      throws IOException;

  /** How many rows {@link #find} would return without a limit. */
  long count(Table table, List<Integer> columns, List<Value> values) throws IOException;
}
