package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.changeset.Action;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.RowChange;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.copy.WriteTable;
import weftex.store.copy.WriteTransaction;

/**
 * Third pass: reads every written row again, compares it with what was meant, and writes the
 * receipt.
 */
final class Verification {
  private static final int LISTED = 100;

  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final Numbers numbers;
  private final ReceiptWriter receipt;
  private final String copy;
  private final List<Drift> altered = new ArrayList<>();
  private long adds;
  private long updates;
  private long removes;

  Verification(
      WriteTransaction transaction,
      TargetTables tables,
      Numbers numbers,
      ReceiptWriter receipt,
      String copy) {
    this.transaction = transaction;
    this.tables = tables;
    this.numbers = numbers;
    this.receipt = receipt;
    this.copy = copy;
  }

  void check(List<RowChange> chunk) throws SQLException, Refusal, IOException {
    Map<String, Map<Integer, List<Value>>> keys = new LinkedHashMap<>();
    for (RowChange change : chunk) {
      WriteTable table = tables.table(change.table());
      if (table.table().hasKey()) {
        keys.computeIfAbsent(change.table(), name -> new LinkedHashMap<>())
            .put(change.id(), key(table.table(), change));
      }
    }
    Map<String, Map<List<Value>, List<Value>>> rows = new LinkedHashMap<>();
    for (Map.Entry<String, Map<Integer, List<Value>>> entry : keys.entrySet()) {
      rows.put(
          entry.getKey(),
          transaction.lock(
              tables.table(entry.getKey()),
              entry.getValue().values(),
              ChangeSetWriter.WHOLE_UP_TO));
    }
    for (RowChange change : chunk) {
      Table table = tables.table(change.table()).table();
      if (!table.hasKey()) {
        count(change.action());
        receipt.after(
            change.id(),
            change.action(),
            change.table(),
            change.key(),
            change.action() == Action.ADD ? numbers.resolve(table, change.after()) : Map.of(),
            change.fresh());
      } else {
        List<Value> key = keys.get(change.table()).get(change.id());
        check(table, change, key, rows.get(change.table()).get(key));
      }
    }
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

  private void check(Table table, RowChange change, List<Value> key, List<Value> now)
      throws Refusal, IOException {
    count(change.action());
    Map<String, Value> named = new LinkedHashMap<>();
    for (int i = 0; i < table.key().size(); i++) {
      named.put(table.columns().get(table.key().get(i)).name(), key.get(i));
    }
    if (change.action() == Action.REMOVE) {
      if (now != null) {
        throw wrong(change, "the row is still there");
      }
      receipt.after(change.id(), change.action(), change.table(), named, Map.of(), change.fresh());
      return;
    }
    if (now == null) {
      throw wrong(change, "the row can't be found again under its key");
    }
    Map<String, Value> whole = DriftCheck.named(table, now);
    whole.putAll(compare(table, change, whole));
    receipt.after(
        change.id(),
        change.action(),
        change.table(),
        named,
        ChangeSetWriter.shortened(whole, change.after().keySet()),
        change.fresh());
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
