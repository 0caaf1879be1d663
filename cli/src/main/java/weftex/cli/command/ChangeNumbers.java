package weftex.cli.command;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.changeset.Answer;
import weftex.core.changeset.Review;
import weftex.core.plan.Selection;
import weftex.store.Refusal;

/**
 * Which changes a reviewer means: numbers and ranges ({@code 3,7-9}), one column of a change
 * ({@code 3.title}), {@code conflicts} (all that are open), {@code conflicts.title} (that column in
 * all of them), {@code offers}, a table's name, or a thing with all that belongs to it ({@code
 * page:Winter*}).
 */
final class ChangeNumbers {
  private static final Pattern NUMBERS = Pattern.compile("(\\d{1,9})(?:-(\\d{1,9}))?(?:\\.(.+))?");

  private ChangeNumbers() {}

  /**
   * Resolves a written list.
   *
   * @return ids by column; the empty column means the whole change
   */
  static Map<Optional<String>, List<Integer>> resolve(String text, Review review, Answer answer)
      throws Refusal {
    Map<Optional<String>, List<Integer>> chosen =
        new TreeMap<>(java.util.Comparator.comparing(column -> column.orElse("")));
    for (String part : text.split(",")) {
      String word = part.strip();
      Matcher numbers = NUMBERS.matcher(word);
      if (numbers.matches()) {
        int first = Integer.parseInt(numbers.group(1));
        int last = numbers.group(2) == null ? first : Integer.parseInt(numbers.group(2));
        Optional<String> column = Optional.ofNullable(numbers.group(3));
        for (int id = first; id <= last; id++) {
          check(review, id, column, answer);
          chosen.computeIfAbsent(column, k -> new ArrayList<>()).add(id);
        }
      } else {
        Optional<String> column =
            word.startsWith("conflicts.")
                ? Optional.of(word.substring("conflicts.".length()))
                : Optional.empty();
        List<Integer> ids = byWord(word, review, column, answer);
        if (ids.isEmpty()) {
          throw refusal("No change is meant by '" + word + "'.");
        }
        chosen.computeIfAbsent(column, k -> new ArrayList<>()).addAll(ids);
      }
    }
    return chosen;
  }

  private static void check(Review review, int id, Optional<String> column, Answer answer)
      throws Refusal {
    Optional<String> reason = review.refusal(id, column, answer);
    if (reason.isPresent()) {
      throw refusal(reason.get());
    }
  }

  private static Refusal refusal(String what) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT,
        what + " No decision was written.",
        "'weftex review' lists the changes; 'weftex review --help' says how to name them.");
  }

  /** In bulk only those changes are meant that the answer fits. */
  private static List<Integer> byWord(
      String word, Review review, Optional<String> column, Answer answer) {
    Set<Integer> ids = new LinkedHashSet<>();
    Selection.ItemFilter thing = Selection.ItemFilter.parse(word);
    for (int id : review.ids()) {
      boolean meant =
          word.equals("offers")
              ? review.standing(id) == Review.Standing.OFFERED
              : word.startsWith("conflicts")
                  ? review.standing(id) == Review.Standing.OPEN
                  : word.contains(":")
                      ? review.thing(id).map(thing::accepts).orElse(false)
                      : review.table(id).equals(word);
      if (meant && review.refusal(id, column, answer).isEmpty()) {
        ids.add(id);
      }
    }
    return List.copyOf(ids);
  }
}
