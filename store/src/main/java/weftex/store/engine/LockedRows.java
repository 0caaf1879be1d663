package weftex.store.engine;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import weftex.core.change.Action;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.row.ColumnValues;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.rows.WriteTransaction;

/** Locks and reads the rows of some steps: those of a table in the same columns at once. */
final class LockedRows<T> {
  private final WriteTransaction transaction;
  private final List<LockedReading> readings = new ArrayList<>();
  private final Map<Step<T>, Wanted> wanted = new IdentityHashMap<>();

  private LockedRows(WriteTransaction transaction) {
    this.transaction = transaction;
  }

  private record Wanted(LockedReading reading, List<Value> key) {}

  /**
   * Reads rows as they are before anything is written.
   *
   * @param whole for which of them long values are read whole, and not only recognised
   */
  static <T> LockedRows<T> before(
      WriteTransaction transaction,
      TargetTables tables,
      List<Step<T>> steps,
      Predicate<Step<T>> whole)
      throws SQLException, Refusal {
    LockedRows<T> rows = new LockedRows<>(transaction);
    for (Step<T> step : steps) {
      rows.want(step, step.key(), tables.table(step.table()), Set.of(), whole.test(step));
    }
    return rows.read();
  }

  /** Reads rows as they are after they were written, in the columns that need a look. */
  static <T> LockedRows<T> after(
      WriteTransaction transaction, TargetTables tables, List<Step<T>> steps)
      throws SQLException, Refusal {
    LockedRows<T> rows = new LockedRows<>(transaction);
    for (Step<T> step : steps) {
      WriteTable table = tables.table(step.table());
      rows.want(step, step.keyAfter(table.table()), table, toRead(table, step), false);
    }
    return rows.read();
  }

  /**
   * The columns in which a written row must be read again: all, said by none, unless it was only
   * updated where the server writes nothing by itself, and what it held before is known.
   */
  private static Set<String> toRead(WriteTable table, Step<?> step) {
    boolean onlyWritten =
        step.action() == Action.UPDATE
            && !table.sideEffects()
            && table.table().columns().stream()
                .allMatch(column -> step.before().containsKey(column.name()));
    return onlyWritten ? step.after().keySet() : Set.of();
  }

  private void want(
      Step<T> step, List<Value> key, WriteTable table, Set<String> columns, boolean whole) {
    LockedReading reading = reading(step.table(), table, columns, whole);
    reading.keys.add(key);
    wanted.put(step, new Wanted(reading, key));
  }

  /** The reading that a row belongs to; mostly it is that of the row before. */
  private LockedReading reading(String name, WriteTable table, Set<String> columns, boolean whole) {
    for (int i = readings.size() - 1; i >= 0; i--) {
      LockedReading known = readings.get(i);
      if (known.name.equals(name) && known.whole == whole && known.columns.equals(columns)) {
        return known;
      }
    }
    LockedReading reading =
        new LockedReading(name, columns, whole, columns.isEmpty() ? table : table.only(columns));
    readings.add(reading);
    return reading;
  }

  private LockedRows<T> read() throws SQLException {
    for (LockedReading reading : readings) {
      reading.rows =
          reading.whole
              ? transaction.lock(reading.table, reading.keys)
              : transaction.lock(reading.table, reading.keys, ChangeSetWriter.WHOLE_UP_TO);
    }
    return this;
  }

  /** The row of a step, by column; empty if there is none. */
  Optional<Map<String, Value>> row(Step<T> step) {
    Wanted one = wanted.get(step);
    return Optional.ofNullable(one.reading().rows.get(one.key()))
        .map(row -> ColumnValues.of(one.reading().table.table(), row));
  }
}
