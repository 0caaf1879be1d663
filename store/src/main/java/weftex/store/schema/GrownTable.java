package weftex.store.schema;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.store.database.CatalogTable;
import weftex.store.database.Dialect;

/** A table of the target as it is once it has more columns. */
final class GrownTable {
  private final CatalogTable into;
  private final List<Column> columns;
  private final Map<String, String> collations;
  private final List<String> literals = new ArrayList<>();

  GrownTable(CatalogTable into) {
    this.into = into;
    this.columns = new ArrayList<>(into.table().columns());
    this.collations = new LinkedHashMap<>(into.collations());
  }

  /**
   * Adds a column behind the others.
   *
   * @param filled the literal that older rows hold in it
   */
  void add(Column column, CatalogTable from, String filled, Dialect dialect) {
    columns.add(column);
    Optional.ofNullable(from.collations().get(column.name()))
        .ifPresent(collation -> collations.put(column.name(), collation));
    literals.add(filled + " AS " + dialect.quote(column.name()));
  }

  boolean hasMore() {
    return !literals.isEmpty();
  }

  /** The table, read with its new columns before they are made. */
  CatalogTable table(Dialect dialect) {
    Table old = into.table();
    String rows =
        "SELECT t.*, "
            + String.join(", ", literals)
            + " FROM "
            + dialect.quote(into.realName())
            + " t";
    Table shape =
        new Table(
            old.name(), columns, old.key(), old.number(), old.uniqueKeys(), old.foreignKeys());
    return into.grown(shape, into.realName(), collations, rows);
  }
}
