package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.engine.Drift;
import weftex.store.engine.Policy;
import weftex.store.engine.Run;
import weftex.store.engine.Step;
import weftex.store.engine.TargetTables;
import weftex.store.receipt.ReceiptRows;
import weftex.store.receipt.ReceiptWriter;

/** An undo: rows that moved after the apply, or that are in use, are left alone and said. */
final class UndoPolicy implements Policy<UndoneRow> {
  private final Run run;
  private final TargetTables tables;
  private final UndoSteps steps;
  private final InUse inUse;
  private final boolean alsoChanged;
  private final String copy;
  private final BitSet stays = new BitSet();
  private final List<Drift> leftAlone = new ArrayList<>();
  private final Map<Integer, String> changes = new HashMap<>();

  /** Written columns of the row at hand that a trigger set again. */
  private final List<String> setAgain = new ArrayList<>();

  /**
   * @param alsoChanged whether rows are taken back that changed after the apply
   */
  UndoPolicy(Run run, UndoSteps steps, InUse inUse, boolean alsoChanged) {
    this.run = run;
    this.tables = run.tables();
    this.copy = run.copy();
    this.steps = steps;
    this.inUse = inUse;
    this.alsoChanged = alsoChanged;
  }

  @Override
  public void looked(Step<UndoneRow> step, Optional<Map<String, Value>> now, List<String> moved) {
    int index = step.of().index();
    boolean undone =
        step.action() == Action.REMOVE
            ? now.isEmpty()
            : now.isPresent() && isAs(step, step.of().row().before(), now.get());
    if (undone) {
      stays.set(index);
    } else if (step.action() == Action.ADD && now.isPresent()) {
      leave(step, "has its key taken by a row that was added on " + copy + " since");
    } else if (step.action() == Action.UPDATE && now.isEmpty()) {
      leave(step, "was removed on " + copy + " since");
    } else if (!moved.isEmpty() && !alsoChanged) {
      leave(step, "was edited on " + copy + " since");
      if (step.action() == Action.REMOVE) {
        inUse.stays(index);
      }
    }
    if (!stays.get(index)) {
      inUse.goes(index, step.of().row(), now.orElse(Map.of()));
    }
  }

  private void leave(Step<UndoneRow> step, String why) {
    stays.set(step.of().index());
    leftAlone.add(drift(step.of().row(), why));
  }

  /** Whether a row is as it was recorded, but for what the site counts in it by itself. */
  private boolean isAs(Step<UndoneRow> step, Map<String, Value> recorded, Map<String, Value> now) {
    return recorded.entrySet().stream()
        .allMatch(
            entry ->
                entry.getValue().matches(now.getOrDefault(entry.getKey(), Value.NULL))
                    || steps.isOwn(step.table(), entry.getKey()));
  }

  private static Drift drift(ReceiptRows.Touched row, String why) {
    return new Drift(row.change(), row.table(), row.keyText(), why);
  }

  @Override
  public void unseen(Step<UndoneRow> step) {
    // It is found by all its values when it is written.
  }

  @Override
  public boolean goesOn() throws SQLException, Refusal, IOException {
    inUse.settle(
        (index, why) -> {
          stays.set(index);
          leftAlone.add(drift(steps.row(index), why));
        });
    for (Map.Entry<Integer, List<String>> tie : inUse.ties().entrySet()) {
      if (!stays.get(tie.getKey())) {
        letGo(steps.row(tie.getKey()), tie.getValue());
      }
    }
    steps.stays(stays);
    return true;
  }

  /** Lets a row go of those in whose circle it stands, since the server watches over each step. */
  private void letGo(ReceiptRows.Touched row, List<String> columns) throws SQLException, Refusal {
    WriteTable table = tables.table(row.table());
    Table shape = table.table();
    Map<String, Value> unset = new LinkedHashMap<>();
    for (String column : columns) {
      if (shape.columns().get(shape.position(column).orElseThrow()).nullable()) {
        unset.put(column, Value.NULL);
      }
    }
    if (!unset.isEmpty()) {
      run.transaction().update(table, shape.keyOf(row.key()), unset);
    }
  }

  @Override
  public void missed(Step<UndoneRow> step) {
    BitSet gone = new BitSet();
    gone.set(step.of().index());
    steps.stays(gone);
  }

  @Override
  public Refusal taken(String said) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "A unique value of a row that the undo brings back is taken on " + copy + ": " + said + ".",
        "Free that value on " + copy + ", and undo again.");
  }

  @Override
  public void verified(
      Step<UndoneRow> step, List<Value> key, Map<String, Value> now, List<String> others)
      throws IOException, Refusal {
    ReceiptRows.Touched row = step.of().row();
    List<String> unlike = new ArrayList<>(setAgain);
    setAgain.clear();
    if (!alsoChanged) {
      unlike.addAll(others);
    }
    if (!unlike.isEmpty() && !tables.hasTriggers(row.table())) {
      throw notAsBefore(row, "column " + unlike.get(0) + " holds something else");
    }
    if (!unlike.isEmpty()) {
      leftAlone.add(
          drift(
              row,
              "was taken back, but a trigger on "
                  + copy
                  + " set "
                  + String.join(", ", unlike)
                  + " again"));
    }
    changes.put(row.change(), row.keyText());
    run.effects()
        .wrote(
            row.table(),
            step.action(),
            row.after(),
            step.action() == Action.REMOVE ? Map.of() : row.before());
    run.receipt()
        .after(
            row.change(),
            step.action(),
            row.table(),
            row.key(),
            ChangeSetWriter.shortened(now, changed(row)),
            ReceiptWriter.Merged.NOTHING);
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

  @Override
  public Optional<Refusal> wrong(Step<UndoneRow> step, Optional<String> column, String what) {
    if (column.isPresent() && steps.isOwn(step.table(), column.get())) {
      return Optional.empty();
    }
    if (column.isPresent() && tables.hasTriggers(step.table())) {
      setAgain.add(column.get());
      return Optional.empty();
    }
    return Optional.of(notAsBefore(step.of().row(), what));
  }

  private Refusal notAsBefore(ReceiptRows.Touched row, String what) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        row.table()
            + " "
            + row.keyText()
            + " is not as it was before after the undo on "
            + copy
            + ": "
            + what
            + ".",
        "See what the table's triggers and types do to it.");
  }

  /** The changes of which something was taken back, with the key that their row had. */
  Map<Integer, String> changes() {
    return Map.copyOf(changes);
  }

  /** What was not taken back, or not exactly. */
  List<Drift> leftAlone() {
    return List.copyOf(leftAlone);
  }
}
