package weftex.core.site;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.model.ItemRule;
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
 * @param path positions of the columns that are its part of the public path
 * @param under position of the column that refers to the row under whose path it stands
 * @param author position of the column that says who made it
 * @param changed position of the column that says when it was last changed
 */
public record ItemNaming(
    String kind,
    int kindFrom,
    Optional<KindIn> kindIn,
    Map<String, String> kinds,
    List<Integer> name,
    List<Integer> path,
    Optional<Integer> under,
    Optional<Integer> author,
    Optional<Integer> changed) {

  /**
   * Where another table says what a row is.
   *
   * @param by position of the column there that holds the row's key
   * @param column position of the column that says what it is
   */
  public record KindIn(String table, int by, int column) {}

  static Optional<ItemNaming> of(ItemRule rule, Table table, Map<String, Table> shapes) {
    Optional<String> kind =
        rule.kind().isEmpty() && rule.in().isEmpty() && table.position(rule.kindFrom()).isEmpty()
            ? Optional.empty()
            : Optional.of(rule.kind());
    Optional<KindIn> in = rule.in().isEmpty() ? Optional.empty() : kindIn(rule, shapes);
    if (kind.isEmpty() || in.isEmpty() != rule.in().isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        new ItemNaming(
            kind.get(),
            rule.in().isEmpty() ? table.position(rule.kindFrom()).orElse(-1) : -1,
            in,
            rule.kinds(),
            table.positionsOrNone(rule.name()),
            table.positionsOrNone(rule.path()),
            table.position(rule.under()),
            table.position(rule.author()),
            table.position(rule.changed())));
  }

  private static Optional<KindIn> kindIn(ItemRule rule, Map<String, Table> shapes) {
    Optional<Table> in = Optional.ofNullable(shapes.get(rule.in()));
    Optional<Integer> by = in.flatMap(table -> table.position(rule.by()));
    Optional<Integer> column = in.flatMap(table -> table.position(rule.kindFrom()));
    return by.isEmpty() || column.isEmpty()
        ? Optional.empty()
        : Optional.of(new KindIn(rule.in(), by.get(), column.get()));
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

  /** A row's own part of its public path; empty if it has none. */
  public String pathOf(List<Value> row) {
    return String.join(
        "/",
        path.stream()
            .map(row::get)
            .filter(value -> !value.isNull())
            .map(Value::display)
            .filter(text -> !text.isEmpty())
            .toList());
  }

  /** Whether it says more of a thing than what it is called. */
  public boolean traces() {
    return !path.isEmpty() || author.isPresent() || changed.isPresent();
  }

  /** The same, with a column that says when a thing was changed if the rule names none. */
  ItemNaming changedAt(Optional<Integer> column) {
    return new ItemNaming(
        kind, kindFrom, kindIn, kinds, name, path, under, author, changed.or(() -> column));
  }
}
