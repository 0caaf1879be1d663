package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import weftex.core.change.Action;
import weftex.core.compare.Comparison;
import weftex.core.match.Sides;
import weftex.core.merge.ConflictKind;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;

/** Finds changes that would give a row a unique value that another row of the target has. */
final class UniqueCheck {
  private final Planner planner;
  private final Comparison comparison;
  private final RowFinder target;

  UniqueCheck(Planner planner, Comparison comparison, RowFinder target) {
    this.planner = planner;
    this.comparison = comparison;
    this.target = target;
  }

  void check(Planned planned, Sides sides) throws IOException {
    if (planned.action == Action.REMOVE) {
      return;
    }
    Table table = comparison.tables().get(planned.table).table();
    List<Value> outcome = planner.outcome(planned, sides);
    for (List<Integer> key : keysToCheck(planned, table)) {
      List<Value> wanted = Table.pick(outcome, key);
      boolean open = wanted.stream().anyMatch(Value::isOpen);
      boolean moved =
          planned.action == Action.ADD || !wanted.equals(Table.pick(sides.target().values(), key));
      if (open || !moved) {
        continue;
      }
      for (Row holder : target.find(table, key, wanted, 2)) {
        boolean itself = sides.target().isPresent() && holder.key().equals(sides.target().key());
        if (!itself) {
          settle(planned, table, key, wanted, holder);
        }
      }
    }
  }

  private static List<List<Integer>> keysToCheck(Planned planned, Table table) {
    List<List<Integer>> keys = new ArrayList<>(table.uniqueKeys());
    if (planned.action == Action.ADD && table.hasKey() && !table.isNumbered()) {
      keys.add(table.key());
    }
    return keys;
  }

  /** The holder gives the value up if this change set removes it or changes that value. */
  private void settle(
      Planned planned, Table table, List<Integer> key, List<Value> wanted, Row holder)
      throws IOException {
    Optional<Planned> other = planner.ofTargetRow(planned.table, holder.key());
    if (other.isPresent() && other.get().chosen) {
      boolean givesUp =
          other.get().action == Action.REMOVE
              || !Table.pick(planner.outcome(other.get(), planner.sides(other.get())), key)
                  .equals(wanted);
      boolean waitsForUs = other.get().needs().containsKey(planned);
      if (givesUp && !waitsForUs) {
        planned.need(other.get(), new Planned.Need(ConflictKind.TAKEN, key));
        return;
      }
    }
    String columns = String.join(", ", table.names(key));
    String values = String.join(", ", wanted.stream().map(Value::display).toList());
    String holderKey =
        String.join(
            ", ", Table.pick(holder.values(), table.key()).stream().map(Value::display).toList());
    planned.object(
        new Planned.Objection(
            ConflictKind.TAKEN,
            true,
            new TreeSet<>(key),
            "row "
                + holderKey
                + " of "
                + table.name()
                + " has "
                + columns
                + " "
                + values
                + " already"));
  }
}
