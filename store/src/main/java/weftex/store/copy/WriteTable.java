package weftex.store.copy;

import weftex.core.row.Table;

/**
 * A table that is written.
 *
 * @param table every column of the target that can be written
 * @param realName with prefix
 */
public record WriteTable(Table table, String realName) {}
