package weftex.core.plan;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.change.Action;
import weftex.core.model.Role;

/**
 * Changes that are not chosen because of whose their rows are.
 *
 * @param role whose they are
 * @param kind what they are called, or their table's name
 * @param added how many rows would be added
 * @param updated how many would be updated
 * @param removed how many would be removed
 */
public record LeftOut(Role role, String kind, long added, long updated, long removed) {

  /** How many changes in all. */
  public long changes() {
    return added + updated + removed;
  }

  /** What stays out because of whose it is, by what it is called, in the order of the tables. */
  static List<LeftOut> of(List<Planned> all) {
    Map<List<Object>, Map<Action, Long>> counts = new LinkedHashMap<>();
    for (Planned planned : all) {
      if (!planned.isWritten() && planned.leftOutAs.isPresent()) {
        counts
            .computeIfAbsent(
                List.of(planned.whose(), planned.leftOutAs.get()),
                kind -> new EnumMap<>(Action.class))
            .merge(planned.action, 1L, Long::sum);
      }
    }
    List<LeftOut> leftOut = new ArrayList<>();
    counts.forEach(
        (kind, count) ->
            leftOut.add(
                new LeftOut(
                    (Role) kind.get(0),
                    (String) kind.get(1),
                    count.getOrDefault(Action.ADD, 0L),
                    count.getOrDefault(Action.UPDATE, 0L),
                    count.getOrDefault(Action.REMOVE, 0L))));
    return leftOut;
  }
}
