package weftex.store.apply;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.changeset.DecidedChange;
import weftex.core.changeset.Ties;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.copy.WriteTable;
import weftex.store.copy.WriteTransaction;

/** Second pass: writes. */
final class ChangeWriter {
  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final Numbers numbers;
  private final String copy;
  private final Set<RowName> added = new HashSet<>();
  private final List<Later> later = new ArrayList<>();

  /** References in a circle: set when all rows are there. */
  private record Later(WriteTable table, List<Value> key, Map<String, Value> values) {}

  ChangeWriter(WriteTransaction transaction, TargetTables tables, Numbers numbers, String copy) {
    this.transaction = transaction;
    this.tables = tables;
    this.numbers = numbers;
    this.copy = copy;
  }

  void write(List<DecidedChange> chunk) throws SQLException, Refusal {
    for (DecidedChange change : chunk) {
      WriteTable table = tables.table(change.table());
      switch (change.action()) {
        case ADD -> add(table, change);
        case UPDATE -> update(table, change);
        case REMOVE -> remove(table, change);
      }
    }
  }

  /** Sends what is left. */
  void finish() throws SQLException, Refusal {
    flush();
    for (Later update : later) {
      transaction.update(update.table(), update.key(), update.values());
    }
    flush();
  }

  private void flush() throws SQLException, Refusal {
    Optional<String> refused = transaction.flush();
    if (refused.isPresent()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "A unique value is taken on "
              + copy
              + ": "
              + refused.get()
              + "."
              + tables.filledByTriggers(),
          "Draft again with 'weftex draft', and skip or change the row that clashes.");
    }
  }

  private void add(WriteTable table, DecidedChange change) throws SQLException, Refusal {
    Map<String, Value> row = numbers.resolve(table.table(), change.after());
    Map<String, Value> postponed = postponed(table, change, row);
    if (!postponed.isEmpty()) {
      later.add(new Later(table, numbers.key(table.table(), row), postponed));
      postponed.keySet().forEach(column -> row.put(column, Value.NULL));
    }
    transaction.insert(table, row);
    change.fresh().ifPresent(added::add);
  }

  /** The columns of enforced references to rows that are added only after this one. */
  private Map<String, Value> postponed(
      WriteTable table, DecidedChange change, Map<String, Value> row) throws Refusal {
    Map<String, Value> postponed = new LinkedHashMap<>();
    for (ForeignKey key : table.table().foreignKeys()) {
      for (String column : key.columns()) {
        boolean fresh =
            change.after().get(column) instanceof Value.Fresh number
                && !added.contains(number.row())
                && !change.fresh().equals(Optional.of(number.row()));
        if (!fresh && !needsLater(change, column)) {
          continue;
        }
        Column shape = table.table().columns().get(table.table().position(column).orElseThrow());
        if (!shape.nullable()) {
          throw new Refusal(
              Refusal.Kind.PROTECTED,
              "Added rows refer to each other in a circle through "
                  + table.realName()
                  + "."
                  + column
                  + " on "
                  + copy
                  + ", which can't be NULL for a moment.",
              "Skip one of the rows, or make the column nullable.");
        }
        postponed.put(column, row.get(column));
      }
    }
    return postponed;
  }

  /** Whether a column refers to a row that a later change of the change set adds. */
  private static boolean needsLater(DecidedChange change, String column) {
    return change.needs().stream()
        .anyMatch(need -> need.columns().contains(column) && need.change() > change.id());
  }

  private void update(WriteTable table, DecidedChange change) throws SQLException {
    Map<String, Value> values = new LinkedHashMap<>(numbers.resolve(table.table(), change.after()));
    // A column that the server would touch by itself is told to stay.
    for (Column column : table.table().columns()) {
      Value before = change.before().get(column.name());
      if (column.touched() && before != null && !values.containsKey(column.name())) {
        values.put(column.name(), before);
      }
    }
    transaction.update(table, key(table.table(), change), values);
  }

  private static List<Value> key(Table table, DecidedChange change) {
    return table.names(table.key()).stream().map(change.key()::get).toList();
  }

  private void remove(WriteTable table, DecidedChange change) throws SQLException, Refusal {
    if (!table.table().hasKey()) {
      if (!transaction.deleteOne(table, change.before())) {
        throw moved(change, "the row is no longer there");
      }
      return;
    }
    for (Map.Entry<Ties.Hanger, Long> hanger : change.hangers().entrySet()) {
      checkHangers(change, hanger.getKey(), hanger.getValue());
    }
    transaction.delete(table, key(table.table(), change));
  }

  /**
   * Rows that came to hang on this one since the review must not lose it, least of all by a
   * cascade.
   */
  private void checkHangers(DecidedChange change, Ties.Hanger hanger, long seen)
      throws SQLException, Refusal {
    Optional<WriteTable> from = tables.other(hanger.table());
    if (from.isEmpty()) {
      return;
    }
    List<Integer> columns = from.get().table().positionsOrNone(hanger.columns());
    List<Value> referred = hanger.targetColumns().stream().map(change.before()::get).toList();
    if (columns.isEmpty() || referred.stream().anyMatch(v -> v == null || v.isNull())) {
      return;
    }
    if (transaction.count(from.get(), columns, referred) > seen) {
      flush();
      if (transaction.count(from.get(), columns, referred) > seen) {
        throw moved(change, "new rows of " + hanger.table() + " hang on it");
      }
    }
  }

  private Refusal moved(DecidedChange change, String what) {
    return new Refusal(
        Refusal.Kind.UNDECIDED,
        change.table()
            + " "
            + change.keyText()
            + " (change "
            + change.id()
            + ") can't be removed from "
            + copy
            + ": "
            + what
            + " since the review.",
        "Draft again with 'weftex draft', and decide.");
  }
}
