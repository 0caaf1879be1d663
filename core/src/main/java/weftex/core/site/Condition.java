package weftex.core.site;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.model.FollowRules;
import weftex.core.row.Glob;
import weftex.core.row.Table;
import weftex.core.row.Value;

/** Tells rows by the values of their columns. */
public final class Condition {
  private final Map<Integer, List<String>> patterns;
  private final List<Test> tests = new ArrayList<>();

  private record Test(int column, List<Glob> globs) {}

  /**
   * @param patterns positions of columns and the patterns ({@code *} and {@code ?} match) of which
   *     one must match; without any, every row is told
   */
  public Condition(Map<Integer, List<String>> patterns) {
    this.patterns = Map.copyOf(patterns);
    patterns.forEach(
        (column, written) -> tests.add(new Test(column, written.stream().map(Glob::of).toList())));
  }

  /** Resolves names of columns; empty if the table lacks one of them. */
  static Optional<Condition> of(Table table, Map<String, List<String>> said) {
    Map<Integer, List<String>> resolved = new TreeMap<>();
    for (Map.Entry<String, List<String>> entry : said.entrySet()) {
      Optional<Integer> position = table.position(entry.getKey());
      if (position.isEmpty()) {
        return Optional.empty();
      }
      resolved.put(position.get(), entry.getValue());
    }
    return Optional.of(new Condition(resolved));
  }

  /** The rows of a table that a rule tells; empty if that is of another table. */
  public static Optional<Condition> of(Table table, FollowRules.SchemaVersionRule said) {
    return said.table().equals(table.name()) ? of(table, said.where()) : Optional.empty();
  }

  /** Positions of columns and the patterns of which one must match. */
  public Map<Integer, List<String>> patterns() {
    return patterns;
  }

  /** Whether it holds for a row with these values. */
  public boolean holdsFor(List<Value> row) {
    for (Test test : tests) {
      Value value = row.get(test.column());
      boolean any = false;
      for (Glob glob : test.globs()) {
        if (glob.matches(value)) {
          any = true;
          break;
        }
      }
      if (!any) {
        return false;
      }
    }
    return true;
  }
}
