package weftex.cli.reviewing;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import weftex.core.change.Review;
import weftex.core.select.ItemFilter;
import weftex.core.signoff.Answer;
import weftex.store.Refusal;

/**
 * Which changes a reviewer means: numbers and ranges ({@code 3,7-9}), one column of a change
 * ({@code 3.title}), one passage of its text ({@code 3.body#2}), {@code conflicts} (all that are
 * open), {@code conflicts.title} (that column in all of them), {@code offers}, {@code chosen} (what
 * the selection on the same command line chooses), a table's name, or a thing with all that belongs
 * to it ({@code page:Winter*}).
 */
final class ChangeNumbers {
  private static final Pattern NUMBERS =
      Pattern.compile("(\\d{1,9})(?:-(\\d{1,9}))?(?:\\.([^#]+?)(?:#(\\d{1,4}))?)?");

  private final Review review;
  private final Set<Integer> chosen;

  /**
   * @param chosen what {@code chosen} means
   */
  ChangeNumbers(Review review, Set<Integer> chosen) {
    this.review = review;
    this.chosen = chosen;
  }

  /**
   * Some changes, or one column or passage of them.
   *
   * @param column empty for the whole change
   * @param passage from 1; 0 for the whole column
   */
  record Meant(List<Integer> changes, Optional<String> column, int passage) {}

  /** Resolves a written list; each column and passage stands alone. */
  List<Meant> resolve(String text, Answer answer) throws Refusal {
    Map<List<Object>, List<Integer>> meant = new LinkedHashMap<>();
    for (String part : text.split(",")) {
      String word = part.strip();
      Matcher numbers = NUMBERS.matcher(word);
      if (numbers.matches()) {
        int first = Integer.parseInt(numbers.group(1));
        int last = numbers.group(2) == null ? first : Integer.parseInt(numbers.group(2));
        Optional<String> column = Optional.ofNullable(numbers.group(3));
        int passage = numbers.group(4) == null ? 0 : Integer.parseInt(numbers.group(4));
        for (int id = first; id <= last; id++) {
          check(id, column, answer);
          meant.computeIfAbsent(List.of(column, passage), k -> new ArrayList<>()).add(id);
        }
      } else {
        Optional<String> column =
            word.startsWith("conflicts.")
                ? Optional.of(word.substring("conflicts.".length()))
                : Optional.empty();
        List<Integer> ids = byWord(word, column, answer);
        if (ids.isEmpty() && !isAboutNothing(word)) {
          throw refusal("'" + word + "' matches no change.");
        }
        meant.computeIfAbsent(List.of(column, 0), k -> new ArrayList<>()).addAll(ids);
      }
    }
    List<Meant> all = new ArrayList<>();
    meant.forEach(
        (key, ids) -> {
          if (!ids.isEmpty()) {
            all.add(meant(key, ids));
          }
        });
    return all;
  }

  /** A standing answer to whatever is open, where nothing is. */
  private boolean isAboutNothing(String word) {
    return word.equals("conflicts") && review.count(Review.Standing.OPEN) == 0
        || word.equals("offers") && review.count(Review.Standing.OFFERED) == 0;
  }

  @SuppressWarnings("unchecked")
  private static Meant meant(List<Object> key, List<Integer> ids) {
    return new Meant(List.copyOf(ids), (Optional<String>) key.get(0), (Integer) key.get(1));
  }

  /** Whether a list names changes by what they are, not one by one. */
  static boolean isByWord(String text) {
    return Stream.of(text.split(","))
        .map(String::strip)
        .noneMatch(word -> NUMBERS.matcher(word).matches() || word.startsWith("conflicts."));
  }

  /** Whether lists name columns or passages alone. */
  static boolean isOfColumns(String... lists) {
    return Stream.of(lists)
        .flatMap(text -> Stream.of(text.split(",")))
        .map(word -> NUMBERS.matcher(word.strip()))
        .allMatch(numbers -> numbers.matches() && numbers.group(3) != null);
  }

  private void check(int id, Optional<String> column, Answer answer) throws Refusal {
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
  private List<Integer> byWord(String word, Optional<String> column, Answer answer) {
    Set<Integer> ids = new LinkedHashSet<>();
    ItemFilter thing = ItemFilter.parse(word);
    for (int id : review.ids()) {
      boolean meant =
          word.equals("chosen")
              ? chosen.contains(id)
              : word.equals("offers")
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
