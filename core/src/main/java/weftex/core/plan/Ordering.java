package weftex.core.plan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiPredicate;
import weftex.core.change.Action;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Table;
import weftex.core.site.TableModel;

/**
 * The order in which a database takes changes: a change stands after those it needs, otherwise
 * removals come first, then added rows, then updates, each in the order of tables and keys. Changes
 * that need each other in a circle stand so that what can't wait comes first: an added row can wait
 * for a reference that may be NULL for a moment.
 */
final class Ordering {
  private final BiPredicate<Planned, Planned.Need> counts;
  private final Set<Planned> visited = new HashSet<>();
  private final Set<Planned> done = new HashSet<>();
  private final List<Planned> ordered = new ArrayList<>();

  private Ordering(BiPredicate<Planned, Planned.Need> counts) {
    this.counts = counts;
  }

  /**
   * Orders and numbers what is written.
   *
   * @param tables those of the comparison
   */
  static List<Planned> order(List<Planned> all, List<TableModel> tables) {
    Ordering wished = new Ordering((planned, need) -> true);
    all.stream()
        .filter(Planned::isWritten)
        .sorted(Comparator.comparing(planned -> rank(planned.action)))
        .forEach(wished::visit);
    // Without circles the second pass finds nothing to move.
    Ordering possible = new Ordering((planned, need) -> !canWait(tables, planned, need));
    wished.ordered.forEach(possible::visit);
    for (int i = 0; i < possible.ordered.size(); i++) {
      possible.ordered.get(i).id = i + 1;
    }
    return possible.ordered;
  }

  /** Whether a row can be written before the one that it needs. */
  private static boolean canWait(List<TableModel> tables, Planned planned, Planned.Need need) {
    if (need.inside()) {
      return true;
    }
    if (planned.action != Action.ADD || need.orElse() != ConflictKind.MISSING_PARENT) {
      return false;
    }
    Table table = tables.get(planned.table).table();
    return need.columns().stream()
        .map(table.columns()::get)
        .allMatch(
            column ->
                column.nullable()
                    || table.foreignKeys().stream()
                        .noneMatch(key -> key.columns().contains(column.name())));
  }

  private static int rank(Action action) {
    return switch (action) {
      case REMOVE -> 0;
      case ADD -> 1;
      case UPDATE -> 2;
    };
  }

  /** Depth-first without recursion: chains of new pages under new pages can be long. */
  private void visit(Planned start) {
    List<Planned> path = new ArrayList<>(List.of(start));
    while (!path.isEmpty()) {
      Planned at = path.get(path.size() - 1);
      if (visited.add(at)) {
        at.needs().entrySet().stream()
            .filter(need -> counts.test(at, need.getValue()))
            .map(Map.Entry::getKey)
            .filter(needed -> needed.isWritten() && !visited.contains(needed))
            .forEach(path::add);
      } else {
        path.remove(path.size() - 1);
        if (done.add(at)) {
          ordered.add(at);
        }
      }
    }
  }
}
