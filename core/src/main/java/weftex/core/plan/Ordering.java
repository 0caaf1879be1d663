package weftex.core.plan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import weftex.core.changeset.Action;

/**
 * The order in which a database takes changes: a change stands after those it needs, otherwise
 * removals come first, then added rows, then updates, each in the order of tables and keys. Changes
 * that need each other in a circle stand in the order in which they were met.
 */
final class Ordering {
  private final Set<Planned> visited = new HashSet<>();
  private final List<Planned> ordered = new ArrayList<>();

  private Ordering() {}

  static List<Planned> order(List<Planned> all) {
    Ordering ordering = new Ordering();
    all.stream()
        .filter(Planned::isWritten)
        .sorted(Comparator.comparing(planned -> rank(planned.action)))
        .forEach(ordering::visit);
    for (int i = 0; i < ordering.ordered.size(); i++) {
      ordering.ordered.get(i).id = i + 1;
    }
    return ordering.ordered;
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
        at.needs.keySet().stream()
            .filter(needed -> needed.isWritten() && !visited.contains(needed))
            .forEach(path::add);
      } else {
        path.remove(path.size() - 1);
        if (at.id == 0) {
          at.id = -1;
          ordered.add(at);
        }
      }
    }
  }
}
