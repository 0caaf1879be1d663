package weftex.store.compare;

import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.change.Action;
import weftex.core.model.Role;
import weftex.core.plan.LeftOut;
import weftex.core.plan.Plan;
import weftex.core.select.Selection;

/**
 * How a copy differs from a base that was recorded from the other copy a moment ago. Addresses,
 * prefixes, noise, counters and a copy's own settings are no difference.
 *
 * @param apart tables in which the copies are not alike
 * @param own what only differs because visitors wrote on live since staging was made of it
 */
public record Likeness(List<Difference> apart, List<Difference> own) {
  private static final int EXAMPLES = 3;

  /**
   * How a table, or what is live's own of a kind, differs.
   *
   * @param what the table's name, or what its rows are called
   * @param onlyOther rows that only the other copy has
   * @param different rows that both have, not alike
   * @param onlyRecorded rows that only the recorded copy has
   * @param examples some of them, by their keys or by what they are called
   */
  public record Difference(
      String what, long onlyOther, long different, long onlyRecorded, List<String> examples) {}

  public Likeness {
    apart = List.copyOf(apart);
    own = List.copyOf(own);
  }

  public boolean isAlike() {
    return apart.isEmpty();
  }

  /**
   * Looks at the differences of a comparison.
   *
   * @param run with the base that was recorded of its target
   */
  public static Likeness of(ComparisonRun run) throws IOException {
    Plan plan = run.planner().choose(Selection.CONTENT);
    Map<String, Count> counts = new LinkedHashMap<>();
    plan.forEach(
        change -> {
          if (!change.offered()) {
            counts
                .computeIfAbsent(change.table(), table -> new Count())
                .add(change.action(), change.thing().words());
          }
        });
    List<Difference> apart = new ArrayList<>();
    counts.forEach((table, count) -> apart.add(count.of(table)));
    List<Difference> own = new ArrayList<>();
    for (LeftOut left : plan.leftOut()) {
      if (left.role() != Role.LIVE) {
        continue;
      }
      Difference difference =
          new Difference(left.kind(), left.added(), left.updated(), left.removed(), List.of());
      (isLivesOwn(run, left) ? own : apart).add(difference);
    }
    return new Likeness(apart, own);
  }

  /**
   * What live has more than staging is harmless in a base of staging: it came in since. In one of
   * live it would seem to have been removed on staging.
   */
  private static boolean isLivesOwn(ComparisonRun run, LeftOut left) {
    return run.source().name().equals(ComparisonRun.LIVE) && left.removed() == 0;
  }

  private static final class Count {
    private final Map<Action, Long> rows = new EnumMap<>(Action.class);
    private final Set<String> examples = new TreeSet<>();

    void add(Action action, String thing) {
      rows.merge(action, 1L, Long::sum);
      if (examples.size() < EXAMPLES) {
        examples.add(thing);
      }
    }

    Difference of(String table) {
      return new Difference(
          table,
          count(Action.ADD),
          count(Action.UPDATE),
          count(Action.REMOVE),
          List.copyOf(examples));
    }

    private long count(Action action) {
      return rows.getOrDefault(action, 0L);
    }
  }
}
