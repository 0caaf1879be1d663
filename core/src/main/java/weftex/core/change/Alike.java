package weftex.core.change;

import java.util.Map;
import weftex.core.row.Value;

/**
 * A row that the source has changed or added and that the target has already: nothing is made of
 * it, but the base has these values once the change set is applied.
 *
 * @param table without prefix
 * @param key on the target, by column
 * @param values the cells that both copies have alike and the base has not, in the target's terms;
 *     of a row that both added all, with its number on the source; none of a row that both removed
 */
public record Alike(String table, Map<String, Value> key, Map<String, Value> values) {
  /** Whether both copies have removed the row. */
  public boolean isGone() {
    return values.isEmpty();
  }
}
