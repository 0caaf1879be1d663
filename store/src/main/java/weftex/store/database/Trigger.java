package weftex.store.database;

import java.util.Set;

/**
 * A trigger of a table.
 *
 * @param when such as {@code BEFORE UPDATE}
 * @param names other tables that its statement names, with prefix: those that it may write
 */
public record Trigger(String name, String when, Set<String> names) {
  public Trigger {
    names = Set.copyOf(names);
  }

  /** The trigger in words, such as {@code count_edits (BEFORE UPDATE)}. */
  public String words() {
    return when.isEmpty() ? name : name + " (" + when + ")";
  }
}
