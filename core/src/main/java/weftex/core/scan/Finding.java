package weftex.core.scan;

import java.util.List;
import weftex.core.model.Role;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * One thing that is wrong.
 *
 * @param table without prefix
 * @param key the row's key
 * @param column empty if the row as a whole is meant
 * @param what the address's form, the row referred to, what is malformed and where, …
 * @param role whose the row is: what is wrong in noise hurts nobody
 */
public record Finding(
    FindingKind kind, String table, String key, String column, String what, Role role) {

  /** Something in a column of a row. */
  static Finding of(
      FindingKind kind, TableModel model, List<Value> values, int column, String what) {
    return of(kind, model, values, column, what, model.ownership().role(values));
  }

  /** The same, whoever the row belongs to. */
  static Finding of(
      FindingKind kind, TableModel model, List<Value> values, int column, String what, Role role) {
    return new Finding(
        kind,
        model.table().name(),
        key(model, values),
        model.table().columns().get(column).name(),
        what,
        role);
  }

  /** A row's key as a person reads it. */
  static String key(TableModel model, List<Value> values) {
    return String.join(
        ", ", Table.pick(values, model.table().key()).stream().map(Value::display).toList());
  }
}
