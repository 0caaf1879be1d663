package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.core.changeset.Action;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.DecidedChange;
import weftex.core.row.Column;
import weftex.core.row.ColumnValues;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.changeset.ChangePass;
import weftex.store.copy.WriteTable;
import weftex.store.copy.WriteTransaction;
import weftex.store.receipt.ReceiptWriter;

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

  /** Rows of a table that are read at once, in the same columns. */
  private static final class Reading {
    private final String name;
    private final Set<String> columns;
    private final WriteTable table;
    private final List<List<Value>> keys = new ArrayList<>();
    private Map<List<Value>, List<Value>> rows = Map.of();

    private Reading(String name, Set<String> columns, WriteTable table) {
      this.name = name;
      this.columns = columns;
      this.table = table;
    }

    private Optional<Map<String, Value>> row(List<Value> key) {
      return Optional.ofNullable(rows.get(key)).map(row -> ColumnValues.of(table.table(), row));
    }
  }

  /** Where the row of a change is to be found; no reading for one of a table without a key. */
  private record Wanted(DecidedChange change, Optional<Reading> reading, List<Value> key) {}

  void check(List<DecidedChange> chunk) throws SQLException, Refusal, IOException {
    List<Reading> readings = new ArrayList<>();
    List<Wanted> wanted = new ArrayList<>();
    for (DecidedChange change : chunk) {
      WriteTable table = tables.table(change.table());
      if (table.table().hasKey()) {
        Reading reading = reading(readings, table, change);
        List<Value> key = key(table.table(), change);
        reading.keys.add(key);
        wanted.add(new Wanted(change, Optional.of(reading), key));
      } else {
        wanted.add(new Wanted(change, Optional.empty(), List.of()));
      }
    }
    for (Reading reading : readings) {
      reading.rows = transaction.lock(reading.table, reading.keys, ChangeSetWriter.WHOLE_UP_TO);
    }
    behind.then(
        () -> {
          for (Wanted one : wanted) {
            Table table = tables.table(one.change().table()).table();
            if (one.reading().isPresent()) {
              check(table, one.change(), one.key(), one.reading().get().row(one.key()));
            } else {
              checkUnkeyed(table, one.change());
            }
          }
        });
    if (ChangePass.isLong(chunk)) {
      behind.await();
    }
  }

  /** The reading that a change's row belongs to; mostly it is that of the change before. */
  private static Reading reading(List<Reading> readings, WriteTable table, DecidedChange change) {
    Set<String> columns = toRead(table, change);
    for (int i = readings.size() - 1; i >= 0; i--) {
      Reading known = readings.get(i);
      if (known.name.equals(change.table()) && known.columns.equals(columns)) {
        return known;
      }
    }
    Reading reading = new Reading(change.table(), columns, table.only(columns));
    readings.add(reading);
    return reading;
  }

  /**
   * The columns in which a change's row must be read again: all, unless the row was only updated
   * where the server writes nothing by itself, and what it held before is known.
   */
  private static Set<String> toRead(WriteTable table, DecidedChange change) {
    List<Column> columns = table.table().columns();
    boolean onlyWritten =
        change.action() == Action.UPDATE
            && !table.sideEffects()
            && columns.stream().allMatch(column -> change.before().containsKey(column.name()));
    return onlyWritten
        ? change.after().keySet()
        : columns.stream().map(Column::name).collect(Collectors.toCollection(LinkedHashSet::new));
  }

  private void checkUnkeyed(Table table, DecidedChange change) throws IOException {
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
  private List<Value> key(Table table, DecidedChange change) {
    List<Value> key = new ArrayList<>();
    for (String name : table.names(table.key())) {
      Value written = change.after().get(name);
      key.add(written == null ? change.key().get(name) : numbers.resolve(table, name, written));
    }
    return key;
  }

  private void check(
      Table table, DecidedChange change, List<Value> key, Optional<Map<String, Value>> now)
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
    Map<String, Value> whole = compare(table, change, now.get());
    effects.wrote(change.table(), change.action(), change.before(), whole);
    receipt.after(
        change.id(),
        change.action(),
        change.table(),
        named,
        ChangeSetWriter.shortened(
            change.action() == Action.UPDATE ? moved(change, whole) : whole,
            change.after().keySet()),
        change.fresh(),
        merged(table, change));
  }

  private ReceiptWriter.Merged merged(Table table, DecidedChange change) {
    Map<String, Value> drafted = numbers.resolve(table, change.drafted());
    List<String> cells =
        change.action() == Action.ADD
            ? List.of()
            : change.after().keySet().stream()
                .filter(column -> !drafted.containsKey(column))
                .toList();
    return new ReceiptWriter.Merged(cells, drafted);
  }

  /**
   * A row as it is now, after a look at each value; what was not read is as it was before. Values
   * are whole where the change wrote them or knows them.
   */
  private Map<String, Value> compare(Table table, DecidedChange change, Map<String, Value> now)
      throws Refusal {
    ColumnValues.Builder whole = new ColumnValues.Builder(table.columns().size());
    List<String> others = new ArrayList<>();
    for (Column column : table.columns()) {
      String name = column.name();
      Value before = change.before().get(name);
      Value written = change.after().get(name);
      Value expected = written == null ? before : numbers.resolve(table, name, written);
      Value is = now.getOrDefault(name, before);
      boolean asExpected = expected == null || expected.matches(is);
      if (!asExpected && written != null) {
        throw wrong(
            change,
            "column "
                + name
                + " holds another value than was written (a trigger, or a type that can't hold it)");
      }
      if (!asExpected) {
        others.add(name);
      }
      whole.add(name, asExpected && expected != null ? expected : is);
    }
    if (!others.isEmpty() && altered.size() < LISTED) {
      altered.add(
          new Drift(
              change.id(),
              change.table(),
              change.keyText(),
              "the server itself set " + String.join(", ", others)));
    }
    return whole.build();
  }

  /** What an updated row has now, as far as the receipt does not say so by what it had before. */
  private static Map<String, Value> moved(DecidedChange change, Map<String, Value> whole) {
    ColumnValues.Builder moved = new ColumnValues.Builder(change.after().size());
    whole.forEach(
        (column, value) -> {
          // A value that was not moved is the very object that was seen before.
          if (change.before().get(column) != value) {
            moved.add(column, value);
          }
        });
    return moved.build();
  }

  private Refusal wrong(DecidedChange change, String what) {
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
            + ".",
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
