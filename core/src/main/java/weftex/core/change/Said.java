package weftex.core.change;

import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.merge.Passages;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/** What the decisions say of one change, taken together. */
final class Said {
  static final Said NOTHING = new Said();

  /** By column; the empty column is the whole change. */
  private final Map<String, Answer> answers = new HashMap<>();

  private final Map<String, Value> values = new HashMap<>();
  private final Map<String, Map<Integer, Answer>> passages = new HashMap<>();

  /** What a rule decided, and no person. */
  private final Set<String> ruled = new HashSet<>();

  private boolean skipped;
  private boolean brought;

  /**
   * Takes in a decision that fits.
   *
   * @param contested the columns that are in conflict
   */
  void take(Decision decision, Set<String> contested) {
    switch (decision.answer()) {
      case SOURCE, TARGET, BOTH -> side(decision, contested);
      case VALUE -> {
        String column = decision.column().orElseThrow();
        forget(column);
        answers.put(column, Answer.VALUE);
        values.put(column, decision.value().orElseThrow());
      }
      case REOPEN -> decision.column().ifPresentOrElse(this::forget, this::forget);
      case NOTE -> {}
      case SKIP -> skipped = true;
      case INCLUDE -> skipped = false;
      case BRING -> {
        skipped = false;
        brought = true;
      }
    }
  }

  private void forget(String column) {
    answers.remove(column);
    ruled.remove(column);
    values.remove(column);
    passages.remove(column);
  }

  private void forget() {
    answers.clear();
    ruled.clear();
    values.clear();
    passages.clear();
    skipped = false;
    brought = false;
  }

  /** A side for the whole change does not touch values that were written into other columns. */
  private void side(Decision decision, Set<String> contested) {
    if (decision.passage().isPresent()) {
      passage(decision.column().orElseThrow(), decision.passage().get(), decision.answer());
      return;
    }
    if (decision.column().isPresent()) {
      forget(decision.column().get());
    } else {
      skipped = false;
      contested.forEach(this::forget);
    }
    String about = decision.column().orElse("");
    answers.put(about, decision.answer());
    if (decision.isByRule()) {
      ruled.add(about);
    } else {
      ruled.remove(about);
    }
  }

  /** A column is decided once all its passages are. */
  private void passage(String column, Decision.Passage passage, Answer answer) {
    Map<Integer, Answer> chosen = new TreeMap<>(passages(column));
    forget(column);
    chosen.keySet().removeIf(number -> number > passage.of());
    chosen.put(passage.number(), answer);
    passages.put(column, chosen);
    if (chosen.size() == passage.of()) {
      answers.put(column, Answer.VALUE);
    }
  }

  /** What is said of a column, or of the whole change if the column is empty. */
  Optional<Answer> of(String column) {
    return Optional.ofNullable(answers.get(column));
  }

  /** Whether a rule, and no person, decided on a column, or on the whole change if it is empty. */
  boolean isRuled(String column) {
    return ruled.contains(answers.containsKey(column) ? column : "");
  }

  boolean isSkipped() {
    return skipped;
  }

  boolean isBrought() {
    return brought;
  }

  /** Values of the reviewer's own, by column. */
  Map<String, Value> values() {
    return Map.copyOf(values);
  }

  /** Whose side was chosen for passages of a column, by number. */
  Map<Integer, Answer> passages(String column) {
    return Map.copyOf(passages.getOrDefault(column, Map.of()));
  }

  /**
   * Texts that are put together of passages.
   *
   * @param columns those that are written
   */
  Map<String, Value> composed(RowChange change, Set<String> columns) {
    Map<String, Value> composed = new LinkedHashMap<>();
    passages.forEach(
        (column, chosen) -> {
          if (columns.contains(column) && of(column).isPresent()) {
            composed.put(column, composed(change, column, chosen));
          }
        });
    return composed;
  }

  private static Value composed(RowChange change, String column, Map<Integer, Answer> chosen) {
    Passages open =
        change.conflicts().stream()
            .flatMap(conflict -> conflict.passages(column).stream())
            .findFirst()
            .filter(found -> found.open() == chosen.size())
            .orElseThrow(
                () ->
                    new IllegalStateException(
                        "The passages of "
                            + column
                            + " in change "
                            + change.id()
                            + " are not those that were decided; decide them again."));
    return open.text(chosen.values().stream().map(Said::side).toList());
  }

  private static Passages.Side side(Answer answer) {
    return switch (answer) {
      case SOURCE -> Passages.Side.SOURCE;
      case BOTH -> Passages.Side.BOTH;
      default -> Passages.Side.TARGET;
    };
  }
}
