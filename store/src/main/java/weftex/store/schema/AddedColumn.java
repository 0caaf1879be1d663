package weftex.store.schema;

import java.util.List;
import java.util.Optional;
import weftex.core.change.SchemaChange;
import weftex.core.row.Value;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.IndexShape;
import weftex.core.schema.TableShape;
import weftex.store.database.CatalogTable;

/** The statement that adds a column, at its place in the table. */
final class AddedColumn {

  private AddedColumn() {}

  static SchemaChange addColumn(
      CatalogTable from,
      CatalogTable into,
      TableShape table,
      ColumnShape column,
      Value fill,
      List<String> known) {
    int at = from.table().position(column.name()).orElseThrow();
    Optional<String> after =
        at == 0
            ? Optional.empty()
            : Optional.of(from.table().columns().get(at - 1).name())
                .filter(before -> into.table().position(before).isPresent());
    return new SchemaChange(
        0,
        into.table().name(),
        new SchemaChange.Made.NewColumn(
            column,
            after,
            table.indexes().stream()
                .filter(index -> index.kind() != IndexShape.Kind.PRIMARY)
                .filter(index -> belongs(index.columns(), column.name(), known))
                .toList(),
            fill));
  }

  /** Whether an index is made with this column: all its others are there by then. */
  static boolean belongs(List<String> columns, String column, List<String> known) {
    return columns.contains(column) && known.containsAll(columns);
  }
}
