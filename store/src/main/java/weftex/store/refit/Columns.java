package weftex.store.refit;

import java.util.ArrayList;
import java.util.List;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;

/** A row of one shape of a table in the columns of another one; what it lacks is NULL. */
record Columns(Table from, Table into) {

  Row told(Row row) {
    return from.columns().equals(into.columns()) ? row : Row.of(row.key(), told(row.values()));
  }

  List<Value> told(List<Value> values) {
    List<Value> told = new ArrayList<>();
    into.columns()
        .forEach(
            column -> told.add(from.position(column.name()).map(values::get).orElse(Value.NULL)));
    return told;
  }
}
