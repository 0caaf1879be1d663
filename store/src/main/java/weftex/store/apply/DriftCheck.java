package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.changeset.Action;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.DecidedChange;
import weftex.core.row.ColumnValues;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.changeset.ChangePass;
import weftex.store.copy.WriteTable;
import weftex.store.copy.WriteTransaction;
import weftex.store.receipt.ReceiptWriter;

/**
 * First pass: locks every row that is going to be touched and compares it with what the reviewer
 * saw.
 */
final class DriftCheck implements AutoCloseable {
  private static final int LISTED = 100;

  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final Numbers numbers;
  private final ReceiptWriter receipt;
  private final String copy;
  private final List<Drift> drifts = new ArrayList<>();
  private final OneBehind behind = new OneBehind();
  private long more;

  DriftCheck(
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

  void check(List<DecidedChange> chunk) throws SQLException, Refusal, IOException {
    Map<String, List<DecidedChange>> byTable = new LinkedHashMap<>();
    chunk.forEach(c -> byTable.computeIfAbsent(c.table(), name -> new ArrayList<>()).add(c));
    for (Map.Entry<String, List<DecidedChange>> entry : byTable.entrySet()) {
      WriteTable table = tables.table(entry.getKey());
      if (table.table().hasKey()) {
        check(table, entry.getValue());
      } else {
        behind.await();
        for (DecidedChange change : entry.getValue()) {
          if (change.action() == Action.REMOVE) {
            receipt.before(change.id(), change.table(), change.key(), change.before());
          }
        }
      }
    }
    if (ChangePass.isLong(chunk)) {
      behind.await();
    }
  }

  private void check(WriteTable table, List<DecidedChange> changes)
      throws SQLException, Refusal, IOException {
    Map<Integer, List<Value>> keys = new LinkedHashMap<>();
    for (DecidedChange change : changes) {
      keys.put(change.id(), key(table.table(), change));
    }
    List<List<Value>> removed = new ArrayList<>();
    List<List<Value>> others = new ArrayList<>();
    for (DecidedChange change : changes) {
      (change.action() == Action.REMOVE ? removed : others).add(keys.get(change.id()));
    }
    // What a removal takes away must be in the receipt whole; of other rows long values need only
    // be recognised.
    Map<List<Value>, List<Value>> rows =
        transaction.lock(table, others, ChangeSetWriter.WHOLE_UP_TO);
    rows.putAll(transaction.lock(table, removed));
    behind.then(() -> compare(table.table(), changes, keys, rows));
  }

  private void compare(
      Table table,
      List<DecidedChange> changes,
      Map<Integer, List<Value>> keys,
      Map<List<Value>, List<Value>> rows)
      throws IOException {
    for (DecidedChange change : changes) {
      List<Value> now = rows.get(keys.get(change.id()));
      if (change.action() == Action.ADD) {
        if (now != null) {
          drift(change, "a row with this key was added on " + copy + " since");
        }
      } else if (now == null) {
        drift(change, "the row was removed on " + copy + " since");
      } else {
        compare(table, change, now);
      }
    }
  }

  private void compare(Table table, DecidedChange change, List<Value> now) throws IOException {
    List<String> moved = new ArrayList<>();
    for (Map.Entry<String, Value> seen : change.before().entrySet()) {
      Value value = now.get(table.position(seen.getKey()).orElseThrow());
      if (!seen.getValue().matches(value)) {
        moved.add(seen.getKey());
      }
    }
    if (!moved.isEmpty()) {
      drift(
          change,
          String.join(", ", moved)
              + (moved.size() == 1 ? " was" : " were")
              + " edited on "
              + copy
              + " since");
      return;
    }
    Map<String, Value> row =
        change.action() == Action.UPDATE
            ? asSeen(table, change.before(), now)
            : ColumnValues.of(table, now);
    receipt.before(change.id(), change.table(), change.key(), row);
  }

  /** A row's values as the reviewer saw them: equal, and whole where the change needs it. */
  private static Map<String, Value> asSeen(
      Table table, Map<String, Value> before, List<Value> now) {
    ColumnValues.Builder row = new ColumnValues.Builder(now.size());
    for (int i = 0; i < now.size(); i++) {
      String name = table.columns().get(i).name();
      row.add(name, before.getOrDefault(name, now.get(i)));
    }
    return row.build();
  }

  /**
   * The key under which a change finds its row: an added row's is the one that it is going to get.
   */
  private List<Value> key(Table table, DecidedChange change) {
    List<Value> key = new ArrayList<>();
    for (int i : table.key()) {
      String name = table.columns().get(i).name();
      key.add(
          change.action() == Action.ADD
              ? numbers.resolve(table, name, change.after().get(name))
              : change.key().get(name));
    }
    return key;
  }

  private void drift(DecidedChange change, String what) {
    if (drifts.size() < LISTED) {
      drifts.add(new Drift(change.id(), change.table(), change.keyText(), what));
    } else {
      more++;
    }
  }

  /** Waits until every row has been compared. */
  void finish() throws Refusal, IOException {
    behind.await();
  }

  @Override
  public void close() {
    behind.close();
  }

  boolean found() {

    return !drifts.isEmpty();
  }

  ApplyOutcome outcome() {
    return new ApplyOutcome.Drifted(List.copyOf(drifts), more);
  }
}
