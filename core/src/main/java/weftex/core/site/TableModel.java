package weftex.core.site;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.value.Format;

/**
 * A table and what it means.
 *
 * @param table its shape
 * @param role whose its rows are
 * @param identity positions of the columns by which numbered rows are the same thing; empty if none
 * @param identityIn the row of another table that belongs to the identity
 * @param unidentified tells rows that have no identity all the same
 * @param references what its columns refer to
 * @param stays positions of columns whose listed patterns mark a row that never travels
 * @param inside what is inside the values of its columns
 * @param permanent positions of columns that are left alone where the target has the row
 * @param item how a person calls its rows
 * @param partOf the reference to the row that its rows are a part of
 * @param through rows that are a part of something by a link
 * @param word what such a part is called
 * @param columns rules of columns that are not merged like others
 * @param rows rows that are somebody else's; the first that holds counts
 * @param counters columns that are recounted, never carried
 * @param secret positions of columns that never travel unless asked for
 * @param clears values that are made empty after an apply
 * @param files columns that name files of the copy
 * @param prefixed columns of names that may begin with the copy's own prefix of table names
 * @param masked columns whose values on one copy are made up
 */
public record TableModel(
    Table table,
    Role role,
    List<Integer> identity,
    Optional<IdentityIn> identityIn,
    List<Condition> unidentified,
    List<Reference> references,
    Map<Integer, Set<String>> stays,
    List<Inside> inside,
    Set<Integer> permanent,
    Optional<ItemNaming> item,
    Optional<Reference> partOf,
    Optional<PartThrough> through,
    String word,
    Map<Integer, ColumnRule> columns,
    List<Rows> rows,
    List<Counter> counters,
    Set<Integer> secret,
    List<Clear> clears,
    List<FileRule.Resolved> files,
    Map<Integer, TableRule.PrefixRule> prefixed,
    List<Masked> masked) {

  /**
   * A row of another table that belongs to the identity.
   *
   * @param by position there of the column that refers to these rows
   * @param columns positions there of the columns that belong to the identity
   */
  public record IdentityIn(String table, int by, List<Integer> columns) {}

  /** A column whose values on one copy are made up, in the rows that the condition tells. */
  public record Masked(int column, Condition when) {
    boolean always() {
      return when.patterns().isEmpty();
    }
  }

  /** Rows and whose they are. */
  public record Rows(Condition when, Role role, boolean onlyNew) {}

  public TableModel {
    identity = List.copyOf(identity);
    references = List.copyOf(references);
    stays = Map.copyOf(stays);
    inside = List.copyOf(inside);
    permanent = Set.copyOf(permanent);
    unidentified = List.copyOf(unidentified);
    columns = Map.copyOf(columns);
    rows = List.copyOf(rows);
    counters = List.copyOf(counters);
    secret = Set.copyOf(secret);
    clears = List.copyOf(clears);
    files = List.copyOf(files);
    prefixed = Map.copyOf(prefixed);
    masked = List.copyOf(masked);
  }

  /** Whose a row with these values is that both copies knew, as far as the row itself says. */
  public Role roleOfKnown(List<Value> row) {
    return rows.stream()
        .filter(rule -> !rule.onlyNew() && rule.when().holdsFor(row))
        .map(Rows::role)
        .findFirst()
        .orElse(role);
  }

  /** Whose a row with these values is, as far as the row itself says. */
  public Role role(List<Value> row) {
    return rows.stream()
        .filter(rule -> rule.when().holdsFor(row))
        .map(Rows::role)
        .findFirst()
        .orElse(role);
  }

  /** Whether two states of a row differ only in what nobody meant to change. */
  public boolean meanTheSame(List<Value> one, List<Value> other) {
    for (int i = 0; i < one.size(); i++) {
      if (!one.get(i).equals(other.get(i))
          && !isOwn(i, one)
          && columns.get(i) != ColumnRule.NEWER) {
        return false;
      }
    }
    return true;
  }

  /**
   * Whether two rows of one number may be one thing: they are of one kind, and have not each an
   * identity and a name of their own.
   */
  public boolean mayBeOne(List<Value> one, List<Value> other) {
    int kind = item.map(ItemNaming::kindFrom).orElse(-1);
    if (kind >= 0 && !one.get(kind).equals(other.get(kind))) {
      return false;
    }
    List<Integer> names = item.map(ItemNaming::name).orElse(List.of());
    return !isIdentified(one)
        || !isIdentified(other)
        || identity.stream().allMatch(i -> isReference(i) || one.get(i).equals(other.get(i)))
        || names.stream().anyMatch(i -> one.get(i).equals(other.get(i)));
  }

  private boolean isReference(int column) {
    return references.stream().anyMatch(reference -> reference.columns().contains(column));
  }

  /** Whether a row is known by its identity. */
  public boolean isIdentified(List<Value> row) {
    if (identity.isEmpty()) {
      return false;
    }
    for (int i : identity) {
      Value value = row.get(i);
      boolean empty =
          value instanceof Value.Text text ? text.utf8().length == 0 : value.display().isEmpty();
      if (empty) {
        return false;
      }
    }
    for (Condition rule : unidentified) {
      if (rule.holdsFor(row)) {
        return false;
      }
    }
    return true;
  }

  /**
   * Whether a column is one that every copy has for itself in all rows, so that it is neither
   * merged nor compared.
   */
  public boolean isOwn(int column) {
    return columns.get(column) == ColumnRule.IGNORED
        || masked.stream().anyMatch(made -> made.column() == column && made.always())
        || counters.stream().anyMatch(counter -> counter.column() == column);
  }

  /** Whether it is one in this row. */
  public boolean isOwn(int column, List<Value> row) {
    return isOwn(column)
        || masked.stream().anyMatch(made -> made.column() == column && made.when().holdsFor(row));
  }

  /** Whether one copy has made-up values in a row. */
  public boolean isMasked(List<Value> row) {
    return masked.stream().anyMatch(made -> made.when().holdsFor(row));
  }

  /** Positions that no merge of this row changes. */
  public Set<Integer> leftAlone(List<Value> row) {
    Set<Integer> positions = leftAlone();
    masked.stream()
        .filter(made -> made.when().holdsFor(row))
        .forEach(made -> positions.add(made.column()));
    return positions;
  }

  /**
   * Positions that no merge changes: the row's own number, what is permanent, secret, counted or a
   * copy's own.
   */
  public Set<Integer> leftAlone() {
    Set<Integer> positions = new HashSet<>(permanent);
    positions.addAll(secret);
    for (int i = 0; i < table.columns().size(); i++) {
      if (i == table.number() || isOwn(i)) {
        positions.add(i);
      }
    }
    return positions;
  }

  /** How a column's value is written in a row, as far as the model says it. */
  public Format format(int column, List<Value> row) {
    for (Inside rule : inside) {
      if (rule.column() == column && rule.format() != Format.AUTO && rule.holdsFor(row)) {
        return rule.format();
      }
    }
    return Format.AUTO;
  }

  /** Whether a value may hold more than its bytes show. */
  public boolean hasEncoded() {
    return inside.stream().anyMatch(rule -> rule.format() == Format.BASE64);
  }

  /** Whether a row with these values belongs to its copy and never travels. */
  public boolean stays(List<Value> values) {
    return clears.stream().anyMatch(clear -> clear.of().isEmpty() && clear.rows().holdsFor(values))
        || isListed(values);
  }

  private boolean isListed(List<Value> values) {
    return stays.entrySet().stream()
        .anyMatch(
            rule -> {
              String value = values.get(rule.getKey()).display();
              return rule.getValue().stream().anyMatch(pattern -> Glob.matches(pattern, value));
            });
  }
}
