package weftex.core.site;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * Tells rows by the values of their columns.
 *
 * @param patterns positions of columns and the patterns ({@code *} and {@code ?} match) of which
 *     one must match; without any, every row is told
 */
public record Condition(Map<Integer, List<String>> patterns) {
  public Condition {
    patterns = Map.copyOf(patterns);
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

  /** Whether it holds for a row with these values. */
  public boolean holdsFor(List<Value> row) {
    return patterns.entrySet().stream()
        .allMatch(
            entry -> {
              String value = row.get(entry.getKey()).display();
              return entry.getValue().stream().anyMatch(pattern -> Glob.matches(pattern, value));
            });
  }
}
