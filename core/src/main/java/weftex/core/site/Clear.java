package weftex.core.site;

import java.util.List;

/**
 * Values that are made empty after an apply.
 *
 * @param rows tells the rows
 * @param column position of the column that is made empty
 * @param after tables of which one must have been written to; any if none is named
 */
public record Clear(Condition rows, int column, List<String> after) {
  public Clear {
    after = List.copyOf(after);
  }
}
