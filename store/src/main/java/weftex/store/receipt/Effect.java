package weftex.store.receipt;

import java.util.Map;
import weftex.core.row.Value;

/**
 * What follows from the changes: a counter that was recounted, a cache that was made empty, rows
 * that go along with a status, and what remembers them.
 *
 * @param key of the row, by column
 * @param before the values that were replaced, by column; empty for a row that was made, all of a
 *     row that was removed
 * @param after the values now; empty for a row that was removed, all of a row that was made
 */
public record Effect(
    String table, Map<String, Value> key, Map<String, Value> before, Map<String, Value> after) {

  public boolean isMade() {
    return before.isEmpty();
  }

  public boolean isRemoved() {
    return after.isEmpty();
  }
}
