package weftex.cli.result;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.change.SchemaChange;

/**
 * What happens to one thing as a person sees it.
 *
 * @param kind what it is
 * @param name what it is called
 * @param does {@code add}, {@code update} or {@code remove}; {@code update} where only parts of it
 *     change; {@code create} for a new table or column
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
  public static final class Gatherer {
    private final Map<List<String>, Thing> things = new LinkedHashMap<>();
    private final int most;
    private long beyond;

    private static final class Thing {
      private Action action = Action.UPDATE;
      private final Set<String> columns = new LinkedHashSet<>();
      private final Map<String, Long> parts = new TreeMap<>();
      private final Set<String> conflicts = new LinkedHashSet<>();
      private final List<Integer> numbers = new ArrayList<>();
      private Optional<Integer> alongWith = Optional.empty();
      private boolean goes;
      private boolean created;
    }

    /**
     * @param most more things than these are only counted
     */
    public Gatherer(int most) {
      this.most = most;
    }

    /** A new table or column is a thing of its own. */
    public void add(SchemaChange change) {
      Item item = change.item();
      Thing thing = new Thing();
      thing.created = true;
      thing.numbers.add(change.id());
      things.put(List.of(item.kind(), item.name()), thing);
    }

    public void add(Outline change) {
      Item item = change.thing();
      List<String> key = List.of(item.kind(), item.name());
      if (!things.containsKey(key) && things.size() >= most) {
        beyond++;
        return;
      }
      Thing thing = things.computeIfAbsent(key, unused -> new Thing());
      thing.numbers.add(change.id());
      if (item.part().isEmpty()) {
        thing.alongWith = change.alongWith();
        thing.goes = change.with().isPresent();
      }
      if (!item.part().isEmpty()) {
        int quote = item.part().indexOf(" '");
        String part = quote < 0 ? item.part() : item.part().substring(0, quote);
        thing.parts.merge(part + " " + done(change.action()), 1L, Long::sum);
      } else {
        thing.action = change.action();
        if (change.action() == Action.UPDATE) {
          thing.columns.addAll(change.written());
        }
      }
      change
          .contests()
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

    public List<ItemReport> items() {
      List<ItemReport> items = new ArrayList<>();
      things.forEach((key, thing) -> items.add(item(key, thing)));
      return items;
    }

    private static ItemReport item(List<String> key, Thing thing) {
      return new ItemReport(
          key.get(0),
          key.get(1),
          thing.created ? "create" : thing.action.label(),
          List.copyOf(thing.columns),
          thing.parts,
          List.copyOf(thing.conflicts),
          thing.numbers.size());
    }

    /** The things as their changes stand. */
    public List<ReviewReport.Item> standing(Review review) {
      List<ReviewReport.Item> items = new ArrayList<>();
      things.forEach(
          (key, thing) -> {
            Map<String, Long> standing = new LinkedHashMap<>();
            Set<String> open = new LinkedHashSet<>();
            for (int id : thing.numbers) {
              standing.merge(review.standing(id).label(), 1L, Long::sum);
              if (review.standing(id) == Review.Standing.OPEN) {
                review.open(id).forEach(kind -> open.add(kind.label()));
              }
            }
            String because =
                thing
                    .alongWith
                    .map(
                        id -> {
                          String other = review.thing(id).map(Item::words).orElse("change " + id);
                          return thing.goes ? "it goes with " + other : other + " needs it";
                        })
                    .orElse("");
            items.add(
                new ReviewReport.Item(
                    item(key, thing),
                    List.copyOf(thing.numbers),
                    standing,
                    List.copyOf(open),
                    because));
          });
      return items;
    }

    /** Rows of things beyond those that are listed. */
    public long beyond() {
      return beyond;
    }
  }
}
