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
 * @param kindIn the row of another table that says what it is
 * @param kinds words for that column's values
 * @param name positions of the columns that name it
 */
public record ItemNaming(
    String kind,
    int kindFrom,
    Optional<KindIn> kindIn,
    Map<String, String> kinds,
    List<Integer> name) {

  /**
   * Where another table says what a row is.
   *
   * @param by position of the column there that holds the row's key
   * @param column position of the column that says what it is
   */
  public record KindIn(String table, int by, int column) {}

  static Optional<ItemNaming> of(ItemRule rule, Table table, Map<String, Table> shapes) {
    List<Integer> name = table.positionsOrNone(rule.name());
    if (!rule.in().isEmpty()) {
      Optional<Table> in = Optional.ofNullable(shapes.get(rule.in()));
      Optional<Integer> by = in.flatMap(t -> t.position(rule.by()));
      Optional<Integer> column = in.flatMap(t -> t.position(rule.kindFrom()));
      return by.isEmpty() || column.isEmpty()
          ? Optional.empty()
          : Optional.of(
              new ItemNaming(
                  "",
                  -1,
                  Optional.of(new KindIn(rule.in(), by.get(), column.get())),
                  rule.kinds(),
                  name));
    }
    Optional<Integer> from = table.position(rule.kindFrom());
    boolean known = !rule.kind().isEmpty() || from.isPresent();
    return known
        ? Optional.of(
            new ItemNaming(rule.kind(), from.orElse(-1), Optional.empty(), rule.kinds(), name))
        : Optional.empty();
  }

  /** What a row with these values is. */
  public String kindOf(List<Value> row) {
    if (kindFrom < 0) {
      return kind;
    }
    return word(row.get(kindFrom).display());
  }

  /** The word for a value that says what a row is. */
  public String word(String said) {
    return kinds.getOrDefault(said, said);
  }

  /** What a row with these values is called; empty if nothing names it. */
  public String nameOf(List<Value> row) {
    return String.join(
            " ", name.stream().map(row::get).filter(v -> !v.isNull()).map(Value::display).toList())
        .strip();
  }
}
