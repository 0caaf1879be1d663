package weftex.store.database;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.Table;

/**
 * A table as a copy has it.
 *
 * @param table its shape; generated columns are left out, since they are never read or written
 * @param realName with prefix
 * @param engine the storage engine
 * @param transactional whether the engine can roll back
 * @param collations of text columns, by column name
 * @param generated names of generated columns
 * @param versioned whether the server keeps the history of its rows by itself
 * @param triggers what runs when rows are written
 * @param sideEffects whether writing one column may change another, by a trigger or a cascade, as
 *     far as the copy's user can see
 * @param rows for a table that is not there yet, or that lacks columns of {@code table}: a query
 *     that gives the rows as they will be
 */
public record CatalogTable(
    Table table,
    String realName,
    String engine,
    boolean transactional,
    Map<String, String> collations,
    List<String> generated,
    boolean versioned,
    List<Trigger> triggers,
    boolean sideEffects,
    Optional<String> rows) {
  public CatalogTable {
    collations = Map.copyOf(collations);
    generated = List.copyOf(generated);
    triggers = List.copyOf(triggers);
  }

  /** The table as it will be when something was added to it. */
  public CatalogTable grown(Table grown, String name, Map<String, String> collations, String rows) {
    return new CatalogTable(
        grown,
        name,
        engine,
        transactional,
        collations,
        generated,
        versioned,
        List.of(),
        sideEffects,
        Optional.of(rows));
  }

  /** Whether all text is stored as the UTF-8 that Weftex compares. */
  public boolean isPlainUnicode() {
    return collations.values().stream().allMatch(c -> c.startsWith("utf8mb4"));
  }
}
