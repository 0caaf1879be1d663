package weftex.core.changeset;

import java.util.List;
import java.util.Optional;

/**
 * What a reviewer decided. A later decision about the same change or column replaces an earlier
 * one.
 *
 * @param changes ids
 * @param column one column, or empty for the whole change
 * @param by who
 * @param at when, as an ISO 8601 instant
 * @param why a note; may be empty
 */
public record Decision(
    List<Integer> changes,
    Optional<String> column,
    Answer answer,
    String by,
    String at,
    String why) {
  public Decision {
    changes = List.copyOf(changes);
    if (column.isPresent() && answer != Answer.SOURCE && answer != Answer.TARGET) {
      throw new IllegalArgumentException("only a side can be decided for a single column");
    }
  }
}
