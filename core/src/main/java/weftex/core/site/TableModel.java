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
 * @param references what its columns refer to
 * @param stays positions of columns whose listed patterns mark a row that never travels
 * @param inside what is inside the values of its columns
 * @param permanent positions of columns that are left alone where the target has the row
 * @param item how a person calls its rows
 * @param partOf the reference to the row that its rows are a part of
 * @param word what such a part is called
 */
public record TableModel(
    Table table,
    Role role,
    List<Integer> identity,
    List<Reference> references,
    Map<Integer, Set<String>> stays,
    List<Inside> inside,
    Set<Integer> permanent,
    Optional<ItemNaming> item,
    Optional<Reference> partOf,
    String word) {

  public TableModel {
    identity = List.copyOf(identity);
    references = List.copyOf(references);
    stays = Map.copyOf(stays);
    inside = List.copyOf(inside);
    permanent = Set.copyOf(permanent);
  }

  /** Positions that no merge changes: the row's own number, and what is permanent. */
  public Set<Integer> leftAlone() {
    if (!table.isNumbered()) {
      return permanent;
    }
    Set<Integer> positions = new HashSet<>(permanent);
    positions.add(table.number());
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
    return stays.entrySet().stream()
        .anyMatch(
            rule -> {
              String value = values.get(rule.getKey()).display();
              return rule.getValue().stream().anyMatch(pattern -> Glob.matches(pattern, value));
            });
  }
}
