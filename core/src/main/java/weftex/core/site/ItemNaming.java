package weftex.core.site;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * How a person calls the rows of a table, resolved to positions.
 *
 * @param kind what such a row is; empty if {@code kindFrom} says so
 * @param kindFrom position of the column that says what it is, or -1
 * @param kinds words for that column's values
 * @param name positions of the columns that name it
 */
public record ItemNaming(String kind, int kindFrom, Map<String, String> kinds, List<Integer> name) {

  static Optional<ItemNaming> of(ItemRule rule, Table table) {
    List<Integer> name = table.positionsOrNone(rule.name());
    Optional<Integer> from = table.position(rule.kindFrom());
    boolean known = !rule.kind().isEmpty() || from.isPresent();
    return known
        ? Optional.of(new ItemNaming(rule.kind(), from.orElse(-1), rule.kinds(), name))
        : Optional.empty();
  }

  /** What a row with these values is. */
  public String kindOf(List<Value> row) {
    if (kindFrom < 0) {
      return kind;
    }
    String said = row.get(kindFrom).display();
    return kinds.getOrDefault(said, said);
  }

  /** What a row with these values is called; empty if nothing names it. */
  public String nameOf(List<Value> row) {
    return String.join(
            " ", name.stream().map(row::get).filter(v -> !v.isNull()).map(Value::display).toList())
        .strip();
  }
}
