package weftex.store.database;

import java.util.Set;
import weftex.core.row.Table;

/**
 * A table that is written.
 *
 * @param table every column of the target that can be written
 * @param realName with prefix
 * @param plainUnicode whether all text is stored as UTF-8
 * @param sideEffects whether writing one column may change another
 */
public record WriteTable(Table table, String realName, boolean plainUnicode, boolean sideEffects) {

  /** A table of the target in the shape that a change set gives it. */
  public static WriteTable of(CatalogTable now, Table shape) {
    return new WriteTable(shape, now.realName(), now.isPlainUnicode(), now.sideEffects());
  }

  /** The same table with some of its columns and its key. */
  public WriteTable only(Set<String> columns) {
    return new WriteTable(table.only(columns), realName, plainUnicode, sideEffects);
  }
}
