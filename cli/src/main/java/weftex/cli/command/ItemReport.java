package weftex.cli.command;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.changeset.Action;
import weftex.core.changeset.Item;
import weftex.core.changeset.RowChange;

/**
 * What happens to one thing as a person sees it.
 *
 * @param kind what it is
 * @param name what it is called
 * @param does {@code add}, {@code update} or {@code remove}; {@code update} where only parts of it
 *     change
 * @param columns the columns of it that change or clash, if it is updated
 * @param parts how many of its parts do what, such as {@code detail added}
 * @param conflicts kinds of conflict in any of its rows
 * @param changes how many rows that is
 */
public record ItemReport(
    String kind,
    String name,
    String does,
    List<String> columns,
    Map<String, Long> parts,
    List<String> conflicts,
    int changes) {

  /** Gathers the changes of things, in the order in which they come up. */
  static final class Gatherer {
    private final Map<List<String>, Thing> things = new LinkedHashMap<>();
    private final int most;
    private long unnamed;
    private long beyond;

    private static final class Thing {
      private Action action = Action.UPDATE;
      private final Set<String> columns = new LinkedHashSet<>();
      private final Map<String, Long> parts = new TreeMap<>();
      private final Set<String> conflicts = new LinkedHashSet<>();
      private int changes;
    }

    /**
     * @param most more things than these are only counted
     */
    Gatherer(int most) {
      this.most = most;
    }

    void add(RowChange change) {
      if (change.offered()) {
        return;
      }
      if (change.item().isEmpty()) {
        unnamed++;
        return;
      }
      Item item = change.item().get();
      List<String> key = List.of(item.kind(), item.name());
      if (!things.containsKey(key) && things.size() >= most) {
        beyond++;
        return;
      }
      Thing thing = things.computeIfAbsent(key, unused -> new Thing());
      thing.changes++;
      if (!item.part().isEmpty()) {
        int quote = item.part().indexOf(" '");
        String part = quote < 0 ? item.part() : item.part().substring(0, quote);
        thing.parts.merge(part + " " + done(change.action()), 1L, Long::sum);
      } else {
        thing.action = change.action();
        if (change.action() == Action.UPDATE) {
          thing.columns.addAll(change.after().keySet());
        }
      }
      change
          .conflicts()
          .forEach(
              conflict -> {
                thing.conflicts.add(conflict.kind().label());
                if (change.action() == Action.UPDATE && item.part().isEmpty()) {
                  thing.columns.addAll(conflict.columns());
                }
              });
    }

    private static String done(Action action) {
      return switch (action) {
        case ADD -> "added";
        case UPDATE -> "updated";
        case REMOVE -> "removed";
      };
    }

    List<ItemReport> items() {
      List<ItemReport> items = new ArrayList<>();
      things.forEach(
          (key, thing) ->
              items.add(
                  new ItemReport(
                      key.get(0),
                      key.get(1),
                      thing.action.label(),
                      List.copyOf(thing.columns),
                      thing.parts,
                      List.copyOf(thing.conflicts),
                      thing.changes)));
      return items;
    }

    /** Rows that the model does not call anything. */
    long unnamed() {
      return unnamed;
    }

    /** Rows of things beyond those that are listed. */
    long beyond() {
      return beyond;
    }
  }
}
