package weftex.core.site;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.model.TableRule;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * A reference, resolved to positions.
 *
 * @param columns positions of the referring columns
 * @param target name of the table referred to
 * @param targetColumns positions there, in the same order
 * @param unset the text of the value that refers to nothing; empty if only NULL does
 * @param enforced whether the server itself enforces it, as a foreign key
 */
public record Reference(
    List<Integer> columns,
    String target,
    List<Integer> targetColumns,
    String unset,
    boolean enforced) {

  public Reference {
    columns = List.copyOf(columns);
    targetColumns = List.copyOf(targetColumns);
  }

  /** Whether these values of the referring columns refer to nothing. */
  public boolean isUnset(List<Value> values) {
    for (Value value : values) {
      if (value.isNull() || !unset.isEmpty() && isUnset(value)) {
        return true;
      }
    }
    return false;
  }

  private boolean isUnset(Value value) {
    boolean zero = value instanceof Value.Whole whole && whole.number().signum() == 0;
    return unset.equals("0") && value instanceof Value.Whole ? zero : value.display().equals(unset);
  }

  /**
   * What a table's columns refer to: by foreign keys, and by rules.
   *
   * @param shapes the tables that are there
   */
  static List<Reference> all(
      Table table, Map<String, TableRule.ReferenceRule> rules, Map<String, Table> shapes) {
    List<Reference> references = new ArrayList<>();
    for (ForeignKey key : table.foreignKeys()) {
      Table target = shapes.get(key.table());
      if (target != null && hasAll(table, key.columns()) && hasAll(target, key.targetColumns())) {
        references.add(
            new Reference(
                table.positions(key.columns()),
                key.table(),
                target.positions(key.targetColumns()),
                "",
                true));
      }
    }
    for (Map.Entry<String, TableRule.ReferenceRule> entry : new TreeMap<>(rules).entrySet()) {
      TableRule.ReferenceRule said = entry.getValue();
      Table target = shapes.get(said.to());
      Optional<Integer> from = table.position(entry.getKey());
      if (target == null || from.isEmpty()) {
        continue;
      }
      List<Integer> to =
          said.column().isEmpty()
              ? target.key()
              : target.position(said.column()).map(List::of).orElse(List.of());
      if (to.size() == 1) {
        references.add(new Reference(List.of(from.get()), said.to(), to, said.unset(), false));
      }
    }
    return references;
  }

  private static boolean hasAll(Table table, List<String> columns) {
    return columns.stream().allMatch(name -> table.position(name).isPresent());
  }

  /** The one that a column alone makes. */
  static Optional<Reference> from(Table table, String column, List<Reference> references) {
    return table
        .position(column)
        .flatMap(
            at ->
                references.stream()
                    .filter(reference -> reference.columns().equals(List.of(at)))
                    .findFirst());
  }
}
