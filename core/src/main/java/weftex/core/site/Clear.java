package weftex.core.site;

import java.util.List;
import java.util.Optional;

/**
 * Values that are made empty after an apply.
 *
 * @param rows tells the rows
 * @param column position of the column that is made empty
 * @param after tables of which one must have been written to; any if none is named
 * @param of only rows that refer by this to a row that was written, or of which a part was
 */
public record Clear(Condition rows, int column, List<String> after, Optional<Reference> of) {
  public Clear {
    after = List.copyOf(after);
  }
}
