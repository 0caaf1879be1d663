package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.changeset.Action;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.RowChange;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.copy.WriteTable;
import weftex.store.copy.WriteTransaction;

/**
 * Third pass: reads every written row again, compares it with what was meant, and writes the
 * receipt.
 */
final class Verification implements AutoCloseable {
  private static final int LISTED = 100;

  private final AfterEffects effects;
  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final Numbers numbers;
  private final ReceiptWriter receipt;
  private final String copy;
  private final List<Drift> altered = new ArrayList<>();
  private final OneBehind behind = new OneBehind();
  private long adds;
  private long updates;
  private long removes;

  Verification(
      AfterEffects effects,
      WriteTransaction transaction,
      TargetTables tables,
      Numbers numbers,
      ReceiptWriter receipt,
      String copy) {
    this.effects = effects;
    this.transaction = transaction;
    this.tables = tables;
    this.numbers = numbers;
    this.receipt = receipt;
    this.copy = copy;
  }

  /** Some columns of a table, read at once. */
  private record Reading(String table, Set<String> columns) {}

  void check(List<RowChange> chunk) throws SQLException, Refusal, IOException {
    Map<Integer, Reading> readings = new HashMap<>();
    Map<Integer, List<Value>> keys = new HashMap<>();
    Map<Reading, List<List<Value>>> wanted = new LinkedHashMap<>();
    for (RowChange change : chunk) {
      WriteTable table = tables.table(change.table());
      if (table.table().hasKey()) {
        Reading reading = new Reading(change.table(), toRead(table, change));
        List<Value> key = key(table.table(), change);
        readings.put(change.id(), reading);
        keys.put(change.id(), key);
        wanted.computeIfAbsent(reading, r -> new ArrayList<>()).add(key);
      }
    }
    Map<Reading, Map<List<Value>, Map<String, Value>>> rows = new HashMap<>();
    for (Map.Entry<Reading, List<List<Value>>> entry : wanted.entrySet()) {
      Reading reading = entry.getKey();
      WriteTable table = tables.table(reading.table()).only(reading.columns());
      Map<List<Value>, Map<String, Value>> named = new HashMap<>();
      transaction
          .lock(table, entry.getValue(), ChangeSetWriter.WHOLE_UP_TO)
          .forEach((key, values) -> named.put(key, DriftCheck.named(table.table(), values)));
      rows.put(reading, named);
    }
    behind.then(
        () -> {
          for (RowChange change : chunk) {
            Reading reading = readings.get(change.id());
            if (reading == null) {
              checkUnkeyed(tables.table(change.table()).table(), change);
            } else {
              List<Value> key = keys.get(change.id());
              Optional<Map<String, Value>> now = Optional.ofNullable(rows.get(reading).get(key));
              check(tables.table(change.table()).table(), change, key, now);
            }
          }
        });
  }

  /**
   * The columns in which a change's row must be read again: all, unless the row was only updated
   * where the server writes nothing by itself, and what it held before is known.
   */
  private static Set<String> toRead(WriteTable table, RowChange change) {
    Set<String> all = new LinkedHashSet<>();
    table.table().columns().forEach(column -> all.add(column.name()));
    boolean onlyWritten =
        change.action() == Action.UPDATE
            && !table.sideEffects()
            && change.before().keySet().containsAll(all);
    return onlyWritten ? change.after().keySet() : all;
  }

  private void checkUnkeyed(Table table, RowChange change) throws IOException {
    count(change.action());
    Map<String, Value> after =
        change.action() == Action.ADD ? numbers.resolve(table, change.after()) : Map.of();
    effects.wrote(change.table(), change.action(), change.before(), after);
    receipt.after(
        change.id(), change.action(), change.table(), change.key(), after, change.fresh());
  }

  /** Waits until every row has been compared and is in the receipt. */
  void finish() throws Refusal, IOException {
    behind.await();
  }

  @Override
  public void close() {
    behind.close();
  }

  /**
   * Where a change's row stands after writing; an update may have rewritten its own key in other
   * letters.
   */
  private List<Value> key(Table table, RowChange change) {
    Map<String, Value> row = new LinkedHashMap<>(change.key());
    numbers
        .resolve(table, change.after())
        .forEach(
            (column, value) -> {
              if (change.action() == Action.ADD || row.containsKey(column)) {
                row.put(column, value);
              }
            });
    return numbers.key(table, row);
  }

  private void check(
      Table table, RowChange change, List<Value> key, Optional<Map<String, Value>> now)
      throws Refusal, IOException {
    count(change.action());
    Map<String, Value> named = new LinkedHashMap<>();
    for (int i = 0; i < table.key().size(); i++) {
      named.put(table.columns().get(table.key().get(i)).name(), key.get(i));
    }
    if (change.action() == Action.REMOVE) {
      if (now.isPresent()) {
        throw wrong(change, "the row is still there");
      }
      effects.wrote(change.table(), change.action(), change.before(), Map.of());
      receipt.after(change.id(), change.action(), change.table(), named, Map.of(), change.fresh());
      return;
    }
    if (now.isEmpty()) {
      throw wrong(change, "the row can't be found again under its key");
    }
    Map<String, Value> whole = inOrder(table, change, now.get());
    whole.putAll(compare(table, change, whole));
    effects.wrote(change.table(), change.action(), change.before(), whole);
    receipt.after(
        change.id(),
        change.action(),
        change.table(),
        named,
        ChangeSetWriter.shortened(whole, change.after().keySet()),
        change.fresh());
  }

  /** A row as it was read; what was not read is as it was before. */
  private static Map<String, Value> inOrder(Table table, RowChange change, Map<String, Value> now) {
    Map<String, Value> whole = new LinkedHashMap<>();
    for (Column column : table.columns()) {
      Value read = now.get(column.name());
      whole.put(column.name(), read != null ? read : change.before().get(column.name()));
    }
    return whole;
  }

  /** Returns the row's values as far as they are as meant: whole where the change wrote them. */
  private Map<String, Value> compare(Table table, RowChange change, Map<String, Value> now)
      throws Refusal {
    Map<String, Value> meant = numbers.resolve(table, change.after());
    for (Map.Entry<String, Value> entry : meant.entrySet()) {
      Value is = now.get(entry.getKey());
      if (!entry.getValue().matches(is)) {
        throw wrong(
            change,
            "column "
                + entry.getKey()
                + " holds another value than was written (a trigger, or a type that can't hold it)");
      }
    }
    List<String> others = new ArrayList<>();
    Map<String, Value> asMeant = new LinkedHashMap<>(meant);
    for (Map.Entry<String, Value> was : change.before().entrySet()) {
      if (meant.containsKey(was.getKey())) {
        continue;
      }
      if (was.getValue().matches(now.get(was.getKey()))) {
        asMeant.put(was.getKey(), was.getValue());
      } else {
        others.add(was.getKey());
      }
    }
    if (!others.isEmpty() && altered.size() < LISTED) {
      altered.add(
          new Drift(
              change.id(),
              change.table(),
              change.keyText(),
              "the server itself set " + String.join(", ", others)));
    }
    return asMeant;
  }

  private Refusal wrong(RowChange change, String what) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        change.table()
            + " "
            + change.keyText()
            + " (change "
            + change.id()
            + ") is not as meant after writing on "
            + copy
            + ": "
            + what
            + ". Everything was rolled back; nothing was changed.",
        "Skip this change with 'weftex review', or see what the table's triggers and types do to it.");
  }

  private void count(Action action) {
    switch (action) {
      case ADD -> adds++;
      case UPDATE -> updates++;
      case REMOVE -> removes++;
    }
  }

  long adds() {
    return adds;
  }

  long updates() {
    return updates;
  }

  long removes() {
    return removes;
  }

  List<Drift> altered() {
    return List.copyOf(altered);
  }
}
