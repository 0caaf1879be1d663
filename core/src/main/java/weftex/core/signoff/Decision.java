package weftex.core.signoff;

import java.util.List;
import java.util.Optional;
import weftex.core.row.Value;

/**
 * What a reviewer decided. A later decision about the same change or column replaces an earlier
 * one.
 *
 * @param changes ids
 * @param column one column, or empty for the whole change
 * @param passage one passage of the column's text, for a side or both
 * @param value what stands in the column, for {@link Answer#VALUE} alone
 * @param by who
 * @param at when, as an ISO 8601 instant
 * @param why a note; may be empty
 */
public record Decision(
    List<Integer> changes,
    Optional<String> column,
    Optional<Passage> passage,
    Answer answer,
    Optional<Value> value,
    String by,
    String at,
    String why) {
  /** What the name of a rule begins with, where a decision says who made it. */
  private static final String RULE = "weftex.yaml, rule ";

  /** How a draft of everything signs what it keeps. */
  public static final String BY_EVERYTHING = "--everything";

  public Decision {
    changes = List.copyOf(changes);
    if (column.isPresent() && !answer.isOfColumns()) {
      throw new IllegalArgumentException("'" + answer.label() + "' is not said of a single column");
    }
    if (passage.isPresent() && (column.isEmpty() || !answer.isOfPassages())) {
      throw new IllegalArgumentException("only a side can be decided for a passage of a column");
    }
    if (answer == Answer.BOTH && passage.isEmpty()) {
      throw new IllegalArgumentException("both sides can stand only in a passage of a text");
    }
    if (value.isPresent() != (answer == Answer.VALUE)
        || value.isPresent() && column.isEmpty()
        || value.isPresent() && value.get() instanceof Value.Digest) {
      throw new IllegalArgumentException("a value, and nothing else, is for one column");
    }
  }

  /**
   * A passage that both copies changed.
   *
   * @param number from 1, in the order of the text
   * @param of how many there are
   */
  public record Passage(int number, int of) {
    public Passage {
      if (number < 1 || number > of) {
        throw new IllegalArgumentException("there is no passage " + number + " of " + of);
      }
    }
  }

  /**
   * How a rule signs.
   *
   * @param number from 1, in the order of weftex.yaml
   */
  public static String byRule(int number) {
    return RULE + number;
  }

  /** Whether a standing rule or a draft of everything made it, and no person. */
  public boolean isByRule() {
    return by.startsWith(RULE) || by.equals(BY_EVERYTHING);
  }

  /** The same about other numbers of changes. */
  public Decision about(List<Integer> others) {
    return new Decision(others, column, passage, answer, value, by, at, why);
  }

  /** A decision that needs no value. */
  public static Decision of(
      List<Integer> changes,
      Optional<String> column,
      Answer answer,
      String by,
      String at,
      String why) {
    return new Decision(changes, column, Optional.empty(), answer, Optional.empty(), by, at, why);
  }
}
