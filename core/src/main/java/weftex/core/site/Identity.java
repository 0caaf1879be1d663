package weftex.core.site;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.model.IdentityRule;
import weftex.core.model.PersonalRules;
import weftex.core.model.TableRule;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * By what two numbered rows are the same thing, whatever their numbers.
 *
 * @param columns positions of the columns; empty if the rows have no identity
 * @param in the row of another table that belongs to the identity
 * @param unless tells rows that have no identity all the same
 */
public record Identity(List<Integer> columns, Optional<In> in, List<Condition> unless) {
  public Identity {
    columns = List.copyOf(columns);
    unless = List.copyOf(unless);
  }

  /**
   * A row of another table that belongs to the identity.
   *
   * @param by position there of the column that refers to these rows
   * @param columns positions there of the columns that belong to the identity
   */
  public record In(String table, int by, List<Integer> columns) {
    private static Optional<In> of(IdentityRule.In said, Map<String, Table> shapes) {
      Table in = said == null ? null : shapes.get(said.table());
      if (in == null || in.position(said.by()).isEmpty()) {
        return Optional.empty();
      }
      List<Integer> columns = in.positionsOrNone(said.columns());
      return columns.isEmpty()
          ? Optional.empty()
          : Optional.of(new In(said.table(), in.position(said.by()).get(), columns));
    }
  }

  static Identity of(Table table, TableRule rule, Map<String, Table> shapes) {
    IdentityRule said = rule.identity();
    return new Identity(
        columns(table, said.columns(), rule.personal()),
        In.of(said.in(), shapes),
        said.unless().entrySet().stream()
            .map(entry -> Condition.of(table, Map.of(entry.getKey(), entry.getValue())))
            .flatMap(Optional::stream)
            .toList());
  }

  private static List<Integer> columns(Table table, List<String> said, PersonalRules personal) {
    if (!table.isNumbered()) {
      return List.of();
    }
    if (personal.masked().stream().anyMatch(one -> said.contains(one.column()))) {
      // A made-up name tells nothing on the other copy.
      return List.of();
    }
    if (!said.isEmpty()) {
      boolean there = said.stream().allMatch(name -> table.position(name).isPresent());
      return there ? table.positions(said) : List.of();
    }
    List<List<Integer>> candidates =
        table.uniqueKeys().stream()
            .filter(key -> key.stream().noneMatch(i -> table.columns().get(i).nullable()))
            .toList();
    return candidates.size() == 1 ? candidates.get(0) : List.of();
  }

  /** Whether a row is known by its identity. */
  public boolean isOf(List<Value> row) {
    if (columns.isEmpty()) {
      return false;
    }
    for (int i : columns) {
      Value value = row.get(i);
      boolean empty =
          value instanceof Value.Text text ? text.utf8().length == 0 : value.display().isEmpty();
      if (empty) {
        return false;
      }
    }
    for (Condition rule : unless) {
      if (rule.holdsFor(row)) {
        return false;
      }
    }
    return true;
  }
}
