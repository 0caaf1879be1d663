package weftex.core.site;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.model.AfterRule;
import weftex.core.row.Table;

/**
 * What follows from an apply in a table.
 *
 * @param counters columns that are recounted, never carried
 * @param clears values that are made empty
 */
public record AfterEffects(List<Counter> counters, List<Clear> clears) {
  public AfterEffects {
    counters = List.copyOf(counters);
    clears = List.copyOf(clears);
  }

  static AfterEffects of(
      Table table, AfterRule said, List<Reference> references, Map<String, Table> shapes) {
    return new AfterEffects(
        counters(table, said.counters(), shapes), clears(table, said.clear(), references));
  }

  private static List<Counter> counters(
      Table table, Map<String, AfterRule.CounterRule> rules, Map<String, Table> shapes) {
    List<Counter> counters = new ArrayList<>();
    for (Map.Entry<String, AfterRule.CounterRule> entry : new TreeMap<>(rules).entrySet()) {
      AfterRule.CounterRule said = entry.getValue();
      Table of = shapes.get(said.of());
      Optional<Integer> column = table.position(entry.getKey());
      if (of == null || column.isEmpty() || table.key().size() != 1) {
        continue;
      }
      Optional<Integer> by = of.position(said.by());
      Optional<Condition> where = Condition.of(of, said.where());
      Optional<Counter.Through> through = through(of, said.through(), shapes);
      if (by.isPresent() && where.isPresent() && (through.isPresent() || said.through() == null)) {
        counters.add(
            new Counter(column.get(), said.of(), by.get(), where.get().patterns(), through));
      }
    }
    return counters;
  }

  private static Optional<Counter.Through> through(
      Table of, AfterRule.CounterRule.Through said, Map<String, Table> shapes) {
    if (said == null || !shapes.containsKey(said.to())) {
      return Optional.empty();
    }
    Table to = shapes.get(said.to());
    Optional<Integer> column = of.position(said.column());
    Optional<Condition> where = Condition.of(to, said.where());
    return column.isPresent() && where.isPresent() && to.key().size() == 1
        ? Optional.of(new Counter.Through(column.get(), said.to(), where.get().patterns()))
        : Optional.empty();
  }

  private static List<Clear> clears(
      Table table, List<AfterRule.ClearRule> rules, List<Reference> references) {
    List<Clear> clears = new ArrayList<>();
    for (AfterRule.ClearRule said : rules) {
      Optional<Condition> when = Condition.of(table, said.when());
      Optional<Integer> column = table.position(said.column());
      Optional<Reference> of = Reference.from(table, said.of(), references);
      boolean told = said.of().isEmpty() || of.isPresent();
      if (when.isPresent() && column.isPresent() && table.hasKey() && told) {
        clears.add(new Clear(when.get(), column.get(), said.after(), of));
      }
    }
    return clears;
  }
}
