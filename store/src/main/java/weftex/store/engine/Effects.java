package weftex.store.engine;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.receipt.Effect;
import weftex.store.rows.WriteTransaction;

/** Writes what follows from the changes, each place once, and notes it for the receipt. */
final class Effects {
  private static final int AT_ONCE = 200;

  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final Set<List<Object>> settled = new HashSet<>();
  private final List<Effect> all = new ArrayList<>();

  Effects(WriteTransaction transaction, TargetTables tables) {
    this.transaction = transaction;
    this.tables = tables;
  }

  /** What was written. */
  List<Effect> all() {
    return List.copyOf(all);
  }

  /** A table that takes part; one that can't roll back is left alone. */
  Optional<WriteTable> table(String name) {
    return tables.other(name).filter(table -> tables.canRollBack(name));
  }

  /** Locks rows and reads one column. */
  Map<List<Value>, Optional<Value>> read(WriteTable table, String column, List<List<Value>> keys)
      throws SQLException {
    WriteTable narrow = table.only(Set.of(column));
    int position = narrow.table().position(column).orElseThrow();
    Map<List<Value>, Optional<Value>> read = new LinkedHashMap<>();
    for (int i = 0; i < keys.size(); i += AT_ONCE) {
      transaction
          .lock(narrow, keys.subList(i, Math.min(keys.size(), i + AT_ONCE)))
          .forEach((key, values) -> read.put(key, Optional.of(values.get(position))));
    }
    return read;
  }

  /** Writes a value, unless it was written in this run already. */
  void change(WriteTable table, List<Value> key, String column, Value before, Value after)
      throws SQLException {
    Table shape = table.table();
    if (settled.add(List.of(shape.name(), key, column))) {
      transaction.update(table, key, Map.of(column, after));
      all.add(
          new Effect(
              shape.name(), named(shape, key), Map.of(column, before), Map.of(column, after)));
    }
  }

  /** Makes a row, with its key. */
  void make(WriteTable table, Map<String, Value> row) throws SQLException, Refusal {
    Table shape = table.table();
    List<Value> key = shape.keyOf(row);
    transaction.insert(table, row);
    flush();
    all.add(new Effect(shape.name(), named(shape, key), Map.of(), row));
  }

  void remove(WriteTable table, List<Value> row) throws SQLException {
    Table shape = table.table();
    List<Value> key = Table.pick(row, shape.key());
    if (settled.add(List.of(shape.name(), key))) {
      transaction.delete(table, key);
      all.add(new Effect(shape.name(), named(shape, key), whole(shape, row), Map.of()));
    }
  }

  /** Takes an earlier effect back where nobody has touched it since. */
  void takeBack(Effect effect) throws SQLException, Refusal {
    Optional<WriteTable> found = table(effect.table());
    if (found.isEmpty()) {
      return;
    }
    WriteTable table = found.get();
    Table shape = table.table();
    List<Value> key = shape.keyOf(effect.key());
    if (effect.isMade() || effect.isRemoved()) {
      List<Value> now = transaction.lock(table, List.of(key)).get(key);
      if (effect.isRemoved() && now == null) {
        make(table, effect.before());
      } else if (effect.isMade() && now != null && isAs(effect.after(), shape, now)) {
        remove(table, now);
      }
      return;
    }
    for (Map.Entry<String, Value> after : effect.after().entrySet()) {
      Optional<Value> now = read(table, after.getKey(), List.of(key)).get(key);
      if (now != null && now.isPresent() && after.getValue().matches(now.get())) {
        change(table, key, after.getKey(), now.get(), effect.before().get(after.getKey()));
      }
    }
  }

  private static boolean isAs(Map<String, Value> row, Table shape, List<Value> now) {
    Map<String, Value> whole = whole(shape, now);
    return row.entrySet().stream()
        .allMatch(cell -> cell.getValue().matches(whole.getOrDefault(cell.getKey(), Value.NULL)));
  }

  private static Map<String, Value> whole(Table shape, List<Value> row) {
    Map<String, Value> named = new LinkedHashMap<>();
    for (int i = 0; i < row.size(); i++) {
      named.put(shape.columns().get(i).name(), row.get(i));
    }
    return named;
  }

  private static Map<String, Value> named(Table shape, List<Value> key) {
    Map<String, Value> named = new LinkedHashMap<>();
    for (int i = 0; i < key.size(); i++) {
      named.put(shape.columns().get(shape.key().get(i)).name(), key.get(i));
    }
    return named;
  }

  void flush() throws SQLException, Refusal {
    Optional<String> refused = transaction.flush();
    if (refused.isPresent()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "A counter or cache could not be written: " + refused.get() + ".",
          "See the site model's 'counters', 'clear' and 'along'.");
    }
  }
}
