package weftex.core.match;

import java.util.List;
import java.util.Optional;
import weftex.core.row.Value;

/** What a base that nobody recorded stands on, row by row where the copies differed. */
public interface BaseEvidence {
  /** A base that was recorded. */
  BaseEvidence NONE = (table, key) -> Optional.empty();

  /**
   * Why a row of the base is as it is.
   *
   * @param words such as {@code changed on staging on 2026-11-20 08:15, after the copies parted}
   */
  record Why(String words, Weight weight) {}

  /** How far it carries. */
  enum Weight {
    /** It speaks for one copy; but nothing is removed on it without a decision. */
    EVIDENCE,
    /** The row goes with what it is a part of, of which the decision is. */
    WITH_ITS_OWNER,
    /** Nothing speaks for either copy. */
    QUESTION
  }

  /**
   * What is known of a row.
   *
   * @param key its key on the copies; a number is the same on both, as they were when they parted
   * @return empty if both copies had it alike
   */
  Optional<Why> of(String table, List<Value> key);
}
