package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.function.LongConsumer;
import weftex.core.changeset.Action;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.row.Column;
import weftex.core.row.ColumnValues;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.copy.WriteTable;
import weftex.store.copy.WriteTransaction;
import weftex.store.receipt.ReceiptRows;
import weftex.store.receipt.ReceiptWriter;

/**
 * The three passes of an undo: look at every row, in the order of applying, and find out which must
 * be left alone; write, in the reverse order; read again.
 */
final class UndoPass {
  private static final int CHUNK = 500;

  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final SiteMap site;
  private final ReceiptRows rows;
  private final boolean alsoChanged;
  private final IntPredicate chosen;
  private final String copy;
  private final LongConsumer progress;
  private final BitSet skipped = new BitSet();
  private final List<Drift> leftAlone = new ArrayList<>();
  private final InUse inUse;
  private long passed;
  private long removed;
  private long restored;
  private long broughtBack;

  UndoPass(
      WriteTransaction transaction,
      TargetTables tables,
      SiteMap site,
      ReceiptRows rows,
      Undoer.Terms terms,
      String copy,
      LongConsumer progress)
      throws Refusal, IOException {
    this.transaction = transaction;
    this.tables = tables;
    this.site = site;
    this.rows = rows;
    this.alsoChanged = terms.alsoChanged();
    this.chosen = change -> terms.changes().map(all -> all.contains(change)).orElse(true);
    this.copy = copy;
    this.progress = progress;
    this.inUse = new InUse(transaction, tables, site, this::row, rows.adds(), alsoChanged);
  }

  /** Takes a row with what is in its place now; an empty map if nothing is. */
  private interface RowSink {
    void accept(int index, ReceiptRows.Touched row, Map<String, Value> now)
        throws SQLException, Refusal, IOException;
  }

  /** Locks and reads the rows of a receipt, a chunk at a time, in the order of applying. */
  private void each(boolean undone, RowSink sink) throws SQLException, Refusal, IOException {
    for (int start = 0; start < rows.size(); start += CHUNK) {
      Map<Integer, ReceiptRows.Touched> chunk = new LinkedHashMap<>();
      Map<String, List<List<Value>>> keys = new LinkedHashMap<>();
      for (int i = start; i < Math.min(rows.size(), start + CHUNK); i++) {
        ReceiptRows.Touched row = row(i);
        if (tables.isGone(row.table()) || !chosen.test(row.change())) {
          skipped.set(i);
          continue;
        }
        chunk.put(i, row);
        keys.computeIfAbsent(row.table(), name -> new ArrayList<>()).add(key(row, undone));
      }
      Map<String, Map<List<Value>, List<Value>>> found = new LinkedHashMap<>();
      for (Map.Entry<String, List<List<Value>>> entry : keys.entrySet()) {
        WriteTable table = tables.table(entry.getKey());
        found.put(
            entry.getKey(),
            table.table().hasKey()
                ? transaction.lock(table, entry.getValue(), ChangeSetWriter.WHOLE_UP_TO)
                : Map.of());
      }
      for (Map.Entry<Integer, ReceiptRows.Touched> entry : chunk.entrySet()) {
        ReceiptRows.Touched row = entry.getValue();
        List<Value> now = found.get(row.table()).get(key(row, undone));
        Table shape = tables.table(row.table()).table();
        sink.accept(entry.getKey(), row, now == null ? Map.of() : ColumnValues.of(shape, now));
        progress.accept(++passed);
      }
    }
  }

  /** A row of the receipt, without columns that the apply made and that are gone again. */
  private ReceiptRows.Touched row(int index) throws IOException, Refusal {
    ReceiptRows.Touched row = rows.get(index);
    if (row.action() != Action.ADD && row.before().isEmpty()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The receipt does not say what "
              + row.table()
              + " "
              + drift(row, "").key()
              + " was before the apply.",
          "Take back the other changes with 'weftex undo --change', and this one by hand.");
    }
    Set<String> gone = tables.goneColumns(row.table());
    return gone.isEmpty() ? row : row.without(gone);
  }

  private List<Value> key(ReceiptRows.Touched row) throws Refusal {
    Table shape = tables.table(row.table()).table();
    return shape.names(shape.key()).stream().map(row.key()::get).toList();
  }

  /**
   * Where a row stands; an update may have rewritten its own key in other letters, which the undo
   * took back.
   */
  private List<Value> key(ReceiptRows.Touched row, boolean undone) throws Refusal {
    Table shape = tables.table(row.table()).table();
    boolean back = undone && row.action() == Action.UPDATE;
    return shape.names(shape.key()).stream()
        .map(name -> back ? row.before().get(name) : row.key().get(name))
        .toList();
  }

  void look() throws SQLException, Refusal, IOException {
    each(false, this::look);
    inUse.settle(
        (index, why) -> {
          skipped.set(index);
          leftAlone.add(drift(row(index), why));
        });
  }

  private void look(int index, ReceiptRows.Touched row, Map<String, Value> now) throws Refusal {
    if (!tables.table(row.table()).table().hasKey()) {
      return;
    }
    lookAt(index, row, now);
    if (!skipped.get(index)) {
      inUse.goes(index, row, now);
    }
  }

  private void lookAt(int index, ReceiptRows.Touched row, Map<String, Value> now) {
    boolean there = !now.isEmpty();
    switch (row.action()) {
      case ADD -> {
        if (!there) {
          skipped.set(index);
        } else if (!isAs(row, row.after(), now)) {
          leave(index, row, "was edited on " + copy + " since");
        }
      }
      case UPDATE -> {
        if (there && isAs(row, row.before(), now)) {
          skipped.set(index);
        } else if (!there) {
          skipped.set(index);
          leftAlone.add(drift(row, "was removed on " + copy + " since"));
        } else if (!isAs(row, row.after(), now)) {
          leave(index, row, "was edited on " + copy + " since");
        }
      }
      case REMOVE -> {
        if (there && isAs(row, row.before(), now)) {
          skipped.set(index);
        } else if (there) {
          skipped.set(index);
          leftAlone.add(
              drift(row, "has its key taken by a row that was added on " + copy + " since"));
        }
      }
    }
  }

  private void leave(int index, ReceiptRows.Touched row, String why) {
    if (alsoChanged) {
      return;
    }
    skipped.set(index);
    leftAlone.add(drift(row, why));
    if (row.action() == Action.ADD) {
      inUse.stays(index);
    }
  }

  /** Whether a row is as it was recorded, but for what the site counts in it by itself. */
  private boolean isAs(
      ReceiptRows.Touched row, Map<String, Value> recorded, Map<String, Value> now) {
    Optional<TableModel> model = site.find(row.table());
    for (Map.Entry<String, Value> entry : recorded.entrySet()) {
      if (!entry.getValue().matches(now.getOrDefault(entry.getKey(), Value.NULL))
          && !(model.isPresent() && isOwn(model.get(), entry.getKey()))) {
        return false;
      }
    }
    return true;
  }

  private static boolean isOwn(TableModel model, String column) {
    return model.table().position(column).filter(model::isOwn).isPresent();
  }

  private static Drift drift(ReceiptRows.Touched row, String why) {
    String key = String.join(", ", row.key().values().stream().map(Value::display).toList());
    return new Drift(row.change(), row.table(), key, why);
  }

  void write() throws SQLException, Refusal, IOException {
    for (Map.Entry<Integer, List<String>> tie : inUse.ties().entrySet()) {
      if (!skipped.get(tie.getKey())) {
        letGo(row(tie.getKey()), tie.getValue());
      }
    }
    for (int i = rows.size() - 1; i >= 0; i--) {
      if (!skipped.get(i)) {
        ReceiptRows.Touched row = row(i);
        WriteTable table = tables.table(row.table());
        switch (row.action()) {
          case ADD -> removeAgain(i, row, table);
          case UPDATE -> restore(row, table);
          case REMOVE -> {
            transaction.insert(table, row.before());
            broughtBack++;
          }
        }
      }
      progress.accept(++passed);
    }
    flush();
  }

  /** Lets a row go of those in whose circle it stands, since the server watches over each step. */
  private void letGo(ReceiptRows.Touched row, List<String> columns) throws SQLException, Refusal {
    WriteTable table = tables.table(row.table());
    Map<String, Value> unset = new LinkedHashMap<>();
    for (String column : columns) {
      if (table.table().columns().get(table.table().position(column).orElseThrow()).nullable()) {
        unset.put(column, Value.NULL);
      }
    }
    if (!unset.isEmpty()) {
      transaction.update(table, key(row), unset);
    }
  }

  private void flush() throws SQLException, Refusal {
    Optional<String> refused = transaction.flush();
    if (refused.isPresent()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "A unique value of a row that the undo brings back is taken on "
              + copy
              + ": "
              + refused.get()
              + ".",
          "Free that value on " + copy + ", and undo again.");
    }
  }

  private void removeAgain(int index, ReceiptRows.Touched row, WriteTable table)
      throws SQLException, Refusal {
    if (!table.table().hasKey()) {
      if (transaction.deleteOne(table, row.after())) {
        removed++;
      } else {
        skipped.set(index);
      }
      return;
    }
    transaction.delete(table, key(row));
    removed++;
  }

  private void restore(ReceiptRows.Touched row, WriteTable table) throws SQLException, Refusal {
    Map<String, Value> values = new LinkedHashMap<>();
    for (Map.Entry<String, Value> before : row.before().entrySet()) {
      Column column =
          table.table().columns().get(table.table().position(before.getKey()).orElseThrow());
      boolean changed = !before.getValue().equals(row.after().get(before.getKey()));
      if ((changed || column.touched()) && !(before.getValue() instanceof Value.Digest)) {
        values.put(before.getKey(), before.getValue());
      }
    }
    transaction.update(table, key(row), values);
    restored++;
  }

  /** Reads everything again, and writes the undo's own receipt. */
  void verify(ReceiptWriter receipt, AfterEffects effects)
      throws SQLException, Refusal, IOException {
    each(
        true,
        (index, row, now) -> {
          if (skipped.get(index)) {
            return;
          }
          boolean keyed = tables.table(row.table()).table().hasKey();
          boolean right =
              !keyed || (row.action() == Action.ADD ? now.isEmpty() : isRestored(row, now));
          if (!right && !now.isEmpty() && tables.hasTriggers(row.table())) {
            leftAlone.add(
                drift(
                    row,
                    "was taken back, but a trigger on "
                        + copy
                        + " set "
                        + String.join(", ", unlike(row, now))
                        + " again"));
          } else if (!right) {
            throw new Refusal(
                Refusal.Kind.PROTECTED,
                row.table()
                    + " "
                    + drift(row, "").key()
                    + " is not as it was before after the undo on "
                    + copy
                    + ".",
                "See what the table's triggers and types do to it.");
          }
          effects.wrote(
              row.table(),
              inverse(row.action()),
              row.after(),
              row.action() == Action.ADD ? Map.of() : row.before());
          receipt.after(
              row.change(),
              inverse(row.action()),
              row.table(),
              row.key(),
              keyed ? ChangeSetWriter.shortened(whole(row, now), changed(row)) : row.before(),
              Optional.empty());
        });
  }

  /** The columns that are not as they were before the apply. */
  private static List<String> unlike(ReceiptRows.Touched row, Map<String, Value> now) {
    return row.before().entrySet().stream()
        .filter(entry -> !entry.getValue().matches(now.getOrDefault(entry.getKey(), Value.NULL)))
        .map(Map.Entry::getKey)
        .toList();
  }

  /** A row as it is now, whole where the receipt knows more than the digest of a value. */
  private static Map<String, Value> whole(ReceiptRows.Touched row, Map<String, Value> now) {
    ColumnValues.Builder whole = new ColumnValues.Builder(now.size());
    now.forEach(
        (column, value) -> {
          Value recorded = row.before().getOrDefault(column, value);
          whole.add(column, recorded.matches(value) ? recorded : value);
        });
    return whole.build();
  }

  private boolean isRestored(ReceiptRows.Touched row, Map<String, Value> now) {
    if (row.action() == Action.REMOVE || !alsoChanged) {
      return isAs(row, row.before(), now);
    }
    return row.before().entrySet().stream()
        .filter(entry -> !entry.getValue().equals(row.after().get(entry.getKey())))
        .allMatch(entry -> entry.getValue().matches(now.get(entry.getKey())));
  }

  /** The columns that the apply had changed. */
  private static Set<String> changed(ReceiptRows.Touched row) {
    Set<String> changed = new HashSet<>();
    row.before()
        .forEach(
            (column, before) -> {
              if (!before.equals(row.after().get(column))) {
                changed.add(column);
              }
            });
    return changed;
  }

  private static Action inverse(Action action) {
    return switch (action) {
      case ADD -> Action.REMOVE;
      case UPDATE -> Action.UPDATE;
      case REMOVE -> Action.ADD;
    };
  }

  /** Whether every row of the apply was taken back, so that live is as it was. */
  boolean tookAllBack() {
    return skipped.isEmpty();
  }

  long touched() {
    return removed + restored + broughtBack;
  }

  long removed() {
    return removed;
  }

  long restored() {
    return restored;
  }

  long broughtBack() {
    return broughtBack;
  }

  UndoOutcome outcome(String receipt) {
    return new UndoOutcome(
        receipt, removed, restored, broughtBack, List.copyOf(leftAlone), List.of(), true);
  }
}
