package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.DecidedChange;
import weftex.core.change.Ties;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.row.Column;
import weftex.core.row.ColumnValues;
import weftex.core.row.ForeignKey;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.engine.Drift;
import weftex.store.engine.Numbers;
import weftex.store.engine.Policy;
import weftex.store.engine.Run;
import weftex.store.engine.Step;
import weftex.store.engine.TargetTables;
import weftex.store.receipt.ReceiptWriter;

/** An apply: nothing is written if any row moved, or is in use, since the review. */
final class ApplyPolicy implements Policy<DecidedChange> {
  private static final int LISTED = 100;

  private final Run run;
  private final TargetTables tables;
  private final Numbers numbers;
  private final Optional<Dependents> dependents;
  private final String copy;
  private final List<Drift> drifts = new ArrayList<>();
  private final List<Drift> altered = new ArrayList<>();
  private final Set<RowName> added = new HashSet<>();
  private long more;

  /**
   * @param dependents rows outside of the change set that may go along, if there can be any
   */
  ApplyPolicy(Run run, Numbers numbers, Optional<Dependents> dependents) {
    this.run = run;
    this.tables = run.tables();
    this.copy = run.copy();
    this.numbers = numbers;
    this.dependents = dependents;
  }

  /** What a removal takes away must be in the receipt whole. */
  @Override
  public boolean needsWhole(Step<DecidedChange> step) {
    return step.action() == Action.REMOVE;
  }

  @Override
  public void looked(Step<DecidedChange> step, Optional<Map<String, Value>> now, List<String> moved)
      throws IOException {
    if (step.action() == Action.ADD) {
      if (now.isPresent()) {
        drift(step, "a row with this key was added on " + copy + " since");
      }
    } else if (now.isEmpty()) {
      drift(step, "the row was removed on " + copy + " since");
    } else if (!moved.isEmpty()) {
      drift(
          step,
          String.join(", ", moved)
              + (moved.size() == 1 ? " was" : " were")
              + " edited on "
              + copy
              + " since");
    } else {
      Map<String, Value> row =
          step.action() == Action.UPDATE ? asSeen(step.before(), now.get()) : now.get();
      run.receipt().before(step.change(), step.table(), step.of().key(), row);
    }
  }

  /** A row's values as the reviewer saw them: equal, and whole where the change needs it. */
  private static Map<String, Value> asSeen(Map<String, Value> before, Map<String, Value> now) {
    ColumnValues.Builder row = new ColumnValues.Builder(now.size());
    now.forEach((column, value) -> row.add(column, before.getOrDefault(column, value)));
    return row.build();
  }

  private void drift(Step<DecidedChange> step, String what) {
    if (drifts.size() < LISTED) {
      drifts.add(drifted(step, what));
    } else {
      more++;
    }
  }

  private static Drift drifted(Step<DecidedChange> step, String what) {
    return new Drift(step.change(), step.table(), step.of().keyText(), what);
  }

  @Override
  public void unseen(Step<DecidedChange> step) throws IOException {
    if (step.action() == Action.REMOVE) {
      run.receipt().before(step.change(), step.table(), step.of().key(), step.before());
    }
  }

  @Override
  public void lookedAround(List<Step<DecidedChange>> chunk)
      throws SQLException, Refusal, IOException {
    for (Step<DecidedChange> step : chunk) {
      if (dependents.isPresent() && step.action() == Action.REMOVE) {
        dependents.get().look(step.table(), step.before());
      }
    }
  }

  @Override
  public boolean goesOn() {
    return drifts.isEmpty();
  }

  /** The columns of enforced references to rows that are added only after this one. */
  @Override
  public Map<String, Value> postponed(Step<DecidedChange> step) throws Refusal {
    DecidedChange change = step.of();
    WriteTable table = tables.table(step.table());
    Map<String, Value> postponed = new LinkedHashMap<>();
    for (ForeignKey key : table.table().foreignKeys()) {
      for (String column : key.columns()) {
        if (comesLater(change, column)) {
          checkNullable(table, column);
          postponed.put(column, step.after().get(column));
        }
      }
    }
    change.fresh().ifPresent(added::add);
    return postponed;
  }

  private boolean comesLater(DecidedChange change, String column) {
    boolean notYet =
        change.after().get(column) instanceof Value.Fresh number
            && !added.contains(number.row())
            && !change.fresh().equals(Optional.of(number.row()));
    return notYet
        || change.needs().stream()
            .anyMatch(need -> need.columns().contains(column) && need.change() > change.id());
  }

  private void checkNullable(WriteTable table, String column) throws Refusal {
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
  }

  /**
   * Rows that came to hang on a removed one since the review must not lose it, least of all by a
   * cascade.
   */
  @Override
  public void beforeWriting(Step<DecidedChange> step) throws SQLException, Refusal {
    for (Map.Entry<Ties.Hanger, Long> hanger : step.of().hangers().entrySet()) {
      checkHangers(step, hanger.getKey(), hanger.getValue());
    }
  }

  private void checkHangers(Step<DecidedChange> step, Ties.Hanger hanger, long seen)
      throws SQLException, Refusal {
    Optional<WriteTable> from = tables.other(hanger.table());
    if (from.isEmpty()) {
      return;
    }
    List<Integer> columns = from.get().table().positionsOrNone(hanger.columns());
    List<Value> referred = hanger.targetColumns().stream().map(step.before()::get).toList();
    if (columns.isEmpty() || referred.stream().anyMatch(v -> v == null || v.isNull())) {
      return;
    }
    if (run.transaction().count(from.get(), columns, referred) > seen) {
      Optional<String> refused = run.transaction().flush();
      if (refused.isPresent()) {
        throw taken(refused.get());
      }
      if (run.transaction().count(from.get(), columns, referred) > seen) {
        throw moved(step, "new rows of " + hanger.table() + " hang on it");
      }
    }
  }

  @Override
  public void missed(Step<DecidedChange> step) throws Refusal {
    throw moved(step, "the row is no longer there");
  }

  private Refusal moved(Step<DecidedChange> step, String what) {
    return new Refusal(
        Refusal.Kind.UNDECIDED,
        called(step) + " can't be removed from " + copy + ": " + what + " since the review.",
        "Draft again with 'weftex draft', and decide.");
  }

  private static String called(Step<DecidedChange> step) {
    return step.table() + " " + step.of().keyText() + " (change " + step.change() + ")";
  }

  @Override
  public Refusal taken(String said) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "A unique value is taken on " + copy + ": " + said + "." + tables.filledByTriggers(),
        "Draft again with 'weftex draft', and skip or change the row that clashes.");
  }

  @Override
  public void written() throws SQLException, IOException {
    if (dependents.isPresent()) {
      dependents.get().settle();
    }
  }

  @Override
  public void verified(
      Step<DecidedChange> step, List<Value> key, Map<String, Value> now, List<String> others)
      throws IOException, Refusal {
    DecidedChange change = step.of();
    Table table = tables.table(step.table()).table();
    run.effects().wrote(step.table(), step.action(), step.before(), now);
    if (!others.isEmpty() && altered.size() < LISTED) {
      altered.add(drifted(step, "the server itself set " + String.join(", ", others)));
    }
    if (!table.hasKey() || step.action() == Action.REMOVE) {
      run.receipt()
          .after(
              step.change(),
              step.action(),
              step.table(),
              table.hasKey() ? Step.named(table, key) : change.key(),
              now,
              ReceiptWriter.Merged.of(change.fresh()));
      return;
    }
    run.receipt()
        .after(
            step.change(),
            step.action(),
            step.table(),
            Step.named(table, key),
            ChangeSetWriter.shortened(
                step.action() == Action.UPDATE ? moved(step, now) : now, step.after().keySet()),
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
    return new ReceiptWriter.Merged(change.fresh(), cells, drafted);
  }

  /** What an updated row has now, as far as the receipt does not say so by what it had before. */
  private static Map<String, Value> moved(Step<DecidedChange> step, Map<String, Value> now) {
    ColumnValues.Builder moved = new ColumnValues.Builder(step.after().size());
    now.forEach(
        (column, value) -> {
          // A value that was not moved is the very object that was seen before.
          if (step.before().get(column) != value) {
            moved.add(column, value);
          }
        });
    return moved.build();
  }

  @Override
  public Optional<Refusal> wrong(Step<DecidedChange> step, Optional<String> column, String what) {
    return Optional.of(
        new Refusal(
            Refusal.Kind.PROTECTED,
            called(step) + " is not as meant after writing on " + copy + ": " + what + ".",
            "Skip this change with 'weftex review', or see what the table's triggers and types do to it."));
  }

  /** What moved since the review. */
  ApplyOutcome.Drifted drifted() {
    return new ApplyOutcome.Drifted(List.copyOf(drifts), more);
  }

  /** What the server itself set. */
  List<Drift> altered() {
    return List.copyOf(altered);
  }
}
