package weftex.store.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.row.Value;
import weftex.store.database.WriteTable;

/** Rows of a table that are read at once, in the same columns. */
final class LockedReading {
  final String name;
  final Set<String> columns;
  final boolean whole;
  final WriteTable table;
  final List<List<Value>> keys = new ArrayList<>();
  Map<List<Value>, List<Value>> rows = Map.of();

  LockedReading(String name, Set<String> columns, boolean whole, WriteTable table) {
    this.name = name;
    this.columns = columns;
    this.whole = whole;
    this.table = table;
  }
}
