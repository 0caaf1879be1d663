package weftex.core.decide;

import java.util.Optional;
import weftex.core.select.Selection;
import weftex.core.signoff.Decision;

/**
 * What is decided once for all.
 *
 * @param number its place in the list, from 1
 * @param which the changes that it is about
 * @param column the only column that it is about; empty for all
 * @param keep the copy whose side stands in a conflict, or {@link #BOTH}; empty if the changes are
 *     left out
 * @param why the reason, as the reviewer will read it
 */
public record StandingRule(
    int number, Selection which, Optional<String> column, Optional<String> keep, String why) {

  /**
   * In place of a copy: what both copies added are two things; of a column, both have their words
   * where both changed a passage of its text, the source's first.
   */
  public static final String BOTH = "both";

  /** Whether neither side gives way. */
  public boolean isBoth() {
    return keep.filter(BOTH::equals).isPresent();
  }

  /** Who decided, as a decision says it. */
  String by() {
    return Decision.byRule(number);
  }
}
