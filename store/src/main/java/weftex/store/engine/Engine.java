package weftex.store.engine;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongConsumer;
import weftex.core.change.Action;
import weftex.core.row.Column;
import weftex.core.row.ColumnValues;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.rows.WriteTransaction;

/**
 * Makes rows or takes them back, in three passes within one transaction: every row is locked and
 * compared with what must be there; written; and read back and compared with what was meant. What
 * becomes of a row that moved is the policy's.
 */
public final class Engine<T> {
  /** Of a chunk above this many bytes nothing else should be in memory. */
  private static final long LONG = 8L << 20;

  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final Policy<T> policy;
  private final LongConsumer progress;
  private final List<Later> later = new ArrayList<>();
  private long passed;
  private long adds;
  private long updates;
  private long removes;

  /** References that are written when all rows are there. */
  private record Later(WriteTable table, List<Value> key, Map<String, Value> values) {}

  /**
   * @param progress is told how many rows have been passed over, three times as many as there are
   */
  public Engine(Run run, Policy<T> policy, LongConsumer progress) {
    this.transaction = run.transaction();
    this.tables = run.tables();
    this.policy = policy;
    this.progress = progress;
  }

  /** Runs; says whether rows were written, or the policy stopped after looking at them. */
  public boolean run(Steps<T> steps) throws SQLException, Refusal, IOException {
    try (OneBehind behind = new OneBehind()) {
      steps.each(
          chunk -> {
            look(chunk, behind);
            policy.lookedAround(chunk);
            passed(chunk.size());
          });
      behind.await();
    }
    if (!policy.goesOn()) {
      return false;
    }
    steps.eachToWrite(
        chunk -> {
          for (Step<T> step : chunk) {
            write(step);
          }
          passed(chunk.size());
        });
    flush();
    for (Later one : later) {
      transaction.update(one.table(), one.key(), one.values());
    }
    flush();
    policy.written();
    try (OneBehind behind = new OneBehind()) {
      steps.each(
          chunk -> {
            verify(chunk, behind);
            passed(chunk.size());
          });
      behind.await();
    }
    return true;
  }

  private void passed(int rows) {
    progress.accept(passed += rows);
  }

  private static <T> boolean isLong(List<Step<T>> chunk) {
    return chunk.size() == 1 && chunk.get(0).weight() > LONG;
  }

  private boolean hasKey(Step<T> step) throws Refusal {
    return tables.table(step.table()).table().hasKey();
  }

  private List<Step<T>> keyed(List<Step<T>> chunk) throws Refusal {
    List<Step<T>> keyed = new ArrayList<>();
    for (Step<T> step : chunk) {
      if (hasKey(step)) {
        keyed.add(step);
      }
    }
    return keyed;
  }

  private void look(List<Step<T>> chunk, OneBehind behind)
      throws SQLException, Refusal, IOException {
    LockedRows<T> rows = LockedRows.before(transaction, tables, keyed(chunk), policy::needsWhole);
    behind.then(
        () -> {
          for (Step<T> step : chunk) {
            if (hasKey(step)) {
              Optional<Map<String, Value>> now = rows.row(step);
              policy.looked(step, now, now.map(row -> moved(step, row)).orElse(List.of()));
            } else {
              policy.unseen(step);
            }
          }
        });
    if (isLong(chunk)) {
      behind.await();
    }
  }

  private static List<String> moved(Step<?> step, Map<String, Value> now) {
    List<String> moved = new ArrayList<>();
    step.before()
        .forEach(
            (column, value) -> {
              if (!value.matches(now.getOrDefault(column, Value.NULL))) {
                moved.add(column);
              }
            });
    return moved;
  }

  private void write(Step<T> step) throws SQLException, Refusal {
    WriteTable table = tables.table(step.table());
    policy.beforeWriting(step);
    switch (step.action()) {
      case ADD -> {
        add(table, step);
        adds++;
      }
      case UPDATE -> {
        transaction.update(table, step.key(), withUntouched(table.table(), step));
        updates++;
      }
      case REMOVE -> {
        if (table.table().hasKey()) {
          transaction.delete(table, step.key());
          removes++;
        } else if (transaction.deleteOne(table, step.before())) {
          removes++;
        } else {
          policy.missed(step);
        }
      }
    }
  }

  private void add(WriteTable table, Step<T> step) throws SQLException, Refusal {
    Map<String, Value> postponed = policy.postponed(step);
    if (postponed.isEmpty()) {
      transaction.insert(table, step.after());
      return;
    }
    Map<String, Value> row = new LinkedHashMap<>(step.after());
    postponed.keySet().forEach(column -> row.put(column, Value.NULL));
    later.add(new Later(table, step.key(), postponed));
    transaction.insert(table, row);
  }

  /** What is written, and columns that the server would touch by itself, which are told to stay. */
  private static Map<String, Value> withUntouched(Table table, Step<?> step) {
    Map<String, Value> values = new LinkedHashMap<>(step.after());
    for (Column column : table.columns()) {
      Value before = step.before().get(column.name());
      if (column.touched() && before != null && !(before instanceof Value.Digest)) {
        values.putIfAbsent(column.name(), before);
      }
    }
    return values;
  }

  private void flush() throws SQLException, Refusal {
    Optional<String> refused = transaction.flush();
    if (refused.isPresent()) {
      throw policy.taken(refused.get());
    }
  }

  private void verify(List<Step<T>> chunk, OneBehind behind)
      throws SQLException, Refusal, IOException {
    LockedRows<T> rows = LockedRows.after(transaction, tables, keyed(chunk));
    behind.then(
        () -> {
          for (Step<T> step : chunk) {
            if (hasKey(step)) {
              verify(step, rows.row(step));
            } else {
              policy.verified(step, step.key(), step.after(), List.of());
            }
          }
        });
    if (isLong(chunk)) {
      behind.await();
    }
  }

  private void verify(Step<T> step, Optional<Map<String, Value>> now) throws Refusal, IOException {
    Table table = tables.table(step.table()).table();
    List<Value> key = step.keyAfter(table);
    boolean removed = step.action() == Action.REMOVE;
    if (removed == now.isPresent()) {
      putUpWith(
          policy.wrong(
              step,
              Optional.empty(),
              removed ? "the row is still there" : "the row can't be found again under its key"));
    }
    if (removed || now.isEmpty()) {
      policy.verified(step, key, Map.of(), List.of());
      return;
    }
    List<String> others = new ArrayList<>();
    Map<String, Value> whole = compare(table, step, now.get(), others);
    policy.verified(step, key, whole, others);
  }

  /**
   * A row as it is now, after a look at each value; what was not read is as it was before. Values
   * are whole where the step wrote them or knows them.
   */
  private Map<String, Value> compare(
      Table table, Step<T> step, Map<String, Value> now, List<String> others) throws Refusal {
    ColumnValues.Builder whole = new ColumnValues.Builder(table.columns().size());
    for (Column column : table.columns()) {
      String name = column.name();
      Value written = step.after().get(name);
      Value expected = written == null ? step.before().get(name) : written;
      Value is = now.getOrDefault(name, expected);
      boolean asExpected = expected == null || expected.matches(is);
      if (!asExpected && written != null) {
        putUpWith(
            policy.wrong(
                step,
                Optional.of(name),
                "column "
                    + name
                    + " holds another value than was written (a trigger, or a type that can't hold it)"));
      } else if (!asExpected) {
        others.add(name);
      }
      whole.add(name, asExpected && expected != null ? expected : is);
    }
    return whole.build();
  }

  private static void putUpWith(Optional<Refusal> wrong) throws Refusal {
    if (wrong.isPresent()) {
      throw wrong.get();
    }
  }

  public long adds() {
    return adds;
  }

  public long updates() {
    return updates;
  }

  public long removes() {
    return removes;
  }

  public long touched() {
    return adds + updates + removes;
  }
}
