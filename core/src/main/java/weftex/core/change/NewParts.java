package weftex.core.change;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntPredicate;
import weftex.core.schema.ReferenceShape;

/** New tables and columns of a change set, and what hangs on their being made. */
final class NewParts {
  /** By the table, the number of the change that makes it. */
  private final Map<String, Integer> tables = new HashMap<>();

  /** The tables that a new table's foreign keys lead to, by the number of its change. */
  private final Map<Integer, List<String>> parents = new HashMap<>();

  private final Map<String, Map<String, Integer>> columns = new HashMap<>();
  private final IntPredicate made;

  /**
   * @param made whether a change is going to be made, as far as it itself is concerned
   */
  NewParts(IntPredicate made) {
    this.made = made;
  }

  void add(SchemaChange change) {
    change
        .column()
        .ifPresentOrElse(
            column ->
                columns
                    .computeIfAbsent(change.table(), name -> new HashMap<>())
                    .put(column, change.id()),
            () -> tables.put(change.table(), change.id()));
    if (change.made() instanceof SchemaChange.Made.NewTable table) {
      parents.put(
          change.id(), table.shape().references().stream().map(ReferenceShape::table).toList());
    }
  }

  boolean isEmpty() {
    return tables.isEmpty() && columns.isEmpty();
  }

  /** New columns of a table that are not going to be made. */
  Set<String> absentColumns(String table) {
    Set<String> absent = new LinkedHashSet<>();
    columns
        .getOrDefault(table, Map.of())
        .forEach(
            (column, id) -> {
              if (!made.test(id)) {
                absent.add(column);
              }
            });
    return absent;
  }

  /** Whether the table of a row is there, or is going to be made. */
  boolean hasPlace(String table) {
    Integer id = tables.get(table);
    return id == null || made.test(id) && hasParents(id);
  }

  /** The same for a change, which may be the one that makes the table. */
  boolean hasPlace(String table, int change) {
    Integer id = tables.get(table);
    return id != null && id == change ? hasParents(id) : hasPlace(table);
  }

  /** Whether the tables that a new one's foreign keys lead to are there, or made before it. */
  private boolean hasParents(int id) {
    return parents.getOrDefault(id, List.of()).stream()
        .filter(parent -> tables.getOrDefault(parent, id) < id)
        .allMatch(this::hasPlace);
  }
}
