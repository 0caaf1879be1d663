package weftex.core.site;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.model.ColumnRule;
import weftex.core.model.HandlingRule;
import weftex.core.model.PersonalRule;
import weftex.core.model.PersonalRules;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * Columns that are not merged like others.
 *
 * @param permanent positions of columns that are left alone where the target has the row
 * @param columns what others are, by position
 * @param masked columns whose values on one copy are made up
 */
public record Handling(
    Set<Integer> permanent, Map<Integer, ColumnRule> columns, List<Masked> masked) {
  public Handling {
    permanent = Set.copyOf(permanent);
    columns = Map.copyOf(columns);
    masked = List.copyOf(masked);
  }

  /** A column whose values on one copy are made up, in the rows that the condition tells. */
  public record Masked(int column, Condition when) {
    boolean always() {
      return when.patterns().isEmpty();
    }
  }

  static Handling of(Table table, HandlingRule said, PersonalRules personal) {
    Map<Integer, ColumnRule> columns = new TreeMap<>();
    said.columns()
        .forEach((name, rule) -> table.position(name).ifPresent(i -> columns.put(i, rule)));
    return new Handling(
        Set.copyOf(table.present(said.permanent())), columns, masked(table, personal.masked()));
  }

  private static List<Masked> masked(Table table, List<PersonalRule> rules) {
    List<Masked> masked = new ArrayList<>();
    for (PersonalRule one : rules) {
      Optional<Condition> when = Condition.of(table, one.when());
      table
          .position(one.column())
          .filter(column -> when.isPresent())
          .ifPresent(column -> masked.add(new Masked(column, when.get())));
    }
    return masked;
  }

  /** The column that says when a row was last changed, if one does. */
  Optional<Integer> newer() {
    return columns.entrySet().stream()
        .filter(column -> column.getValue() == ColumnRule.NEWER)
        .map(Map.Entry::getKey)
        .min(Integer::compare);
  }

  /** Whether every copy has the column for itself. */
  boolean isOwn(int column) {
    // This is asked of every column of every row.
    for (Masked made : masked) {
      if (made.column() == column && made.always()) {
        return true;
      }
    }
    return columns.get(column) == ColumnRule.IGNORED;
  }

  /** Whether one copy has made-up values in a row. */
  public boolean isMasked(List<Value> row) {
    return masked.stream().anyMatch(made -> made.when().holdsFor(row));
  }

  /** Whether one copy's value of a column is made up in a row. */
  boolean isMasked(int column, List<Value> row) {
    for (Masked made : masked) {
      if (made.column() == column && made.when().holdsFor(row)) {
        return true;
      }
    }
    return false;
  }
}
