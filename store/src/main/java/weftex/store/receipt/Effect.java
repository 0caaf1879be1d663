package weftex.store.receipt;

import java.util.Map;
import weftex.core.row.Value;

/**
 * A value that follows from the changes: a counter that was recounted, or a cache that was made
 * empty.
 *
 * @param key of the row, by column
 */
public record Effect(
    String table, Map<String, Value> key, String column, Value before, Value after) {}
