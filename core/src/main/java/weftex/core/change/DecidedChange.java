package weftex.core.change;

import java.util.LinkedHashMap;
import java.util.Map;
import weftex.core.row.Value;

/**
 * A change that is to be made, with nothing left to decide; only {@link Review#decided} makes one.
 * References to added rows are still names.
 */
public final class DecidedChange implements Change {
  private final Head head;
  private final Map<String, Value> before;
  private final Map<String, Value> after;
  private final Map<String, Value> drafted;

  DecidedChange(
      Head head, Map<String, Value> before, Map<String, Value> after, Map<String, Value> drafted) {
    this.head = head;
    this.before = before;
    this.after = after;
    this.drafted = drafted;
  }

  @Override
  public Head head() {
    return head;
  }

  /** The target's row as the reviewer saw it, by column; empty for an added row. */
  public Map<String, Value> before() {
    return before;
  }

  /** What is written, by column: a whole added row, the columns of an updated one, else nothing. */
  public Map<String, Value> after() {
    return after;
  }

  /** The source's own values, in the target's terms, of columns that get others. */
  public Map<String, Value> drafted() {
    return drafted;
  }

  /** The row as it is going to be; empty for a removed one. */
  public Map<String, Value> outcome() {
    if (action() == Action.REMOVE) {
      return Map.of();
    }
    Map<String, Value> outcome = new LinkedHashMap<>(before);
    outcome.putAll(after);
    return outcome;
  }
}
