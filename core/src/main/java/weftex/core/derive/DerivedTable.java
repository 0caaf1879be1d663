package weftex.core.derive;

import java.util.List;

/**
 * A guess of what a table means.
 *
 * @param name without prefix
 * @param rules lines of a model file with the reason for each, in the order of the file
 */
public record DerivedTable(String name, List<Guess> rules) {
  /** What the key of a rule for the inside of a column begins with. */
  static final String INSIDE = "inside:";

  public DerivedTable {
    rules = List.copyOf(rules);
  }

  /**
   * One line of a model file.
   *
   * @param key the rule, such as {@code references}, or {@code inside:} and a column; empty for a
   *     remark without a rule
   * @param entry what is said, as YAML on one line
   * @param why the evidence, as a sentence without a full stop
   */
  public record Guess(String key, String entry, String why) {}
}
