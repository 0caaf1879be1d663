package weftex.store.rows;

import java.util.List;
import java.util.Set;
import weftex.core.row.Column;
import weftex.store.database.WriteTable;

/** An UPDATE by the columns that it writes. */
record UpdateWords(WriteTable table, List<String> names, String sql, List<Column> columns) {

  /** Whether it writes just these columns, in this order. */
  boolean fits(WriteTable other, Set<String> columnNames) {
    return table == other
        && names.size() == columnNames.size()
        && names.equals(List.copyOf(columnNames));
  }
}
