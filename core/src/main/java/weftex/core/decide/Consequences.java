package weftex.core.decide;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.change.Review;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/**
 * What follows from an answer, so that one is enough: what needs a change that is left out is left
 * out, too; what a taken change needs and is only offered is brought; and where the database allows
 * one side alone, that side stands.
 */
public final class Consequences {
  private static final Map<Answer, String> BECAUSE =
      new EnumMap<>(
          Map.of(
              Answer.TARGET, "only this side is possible",
              Answer.SOURCE, "a change that was taken needs it",
              Answer.BRING, "a change that was taken needs it",
              Answer.SKIP, "it needs a change that is left out"));

  private final Review review;
  private final boolean taking;
  private final Set<Integer> apart;
  private final Map<Answer, Set<Integer>> found = new EnumMap<>(Answer.class);

  private Consequences(Review review, Answer answer, Set<Integer> apart) {
    this.review = review;
    this.taking = answer == Answer.SOURCE || answer == Answer.BRING || answer == Answer.INCLUDE;
    this.apart = apart;
  }

  /**
   * Finds what follows and takes it in.
   *
   * @param review with the answer taken in
   * @param apart changes that were open before and that the answer is not about: they stay open
   * @param by who gave the answer
   * @param at when, as an ISO 8601 instant
   * @return the decisions, for the file
   */
  public static List<Decision> of(
      Review review, Answer answer, Set<Integer> apart, String by, String at) {
    Consequences consequences = new Consequences(review, answer, apart);
    List<Decision> decisions = new ArrayList<>();
    // Each round decides something, and nothing is decided twice.
    for (boolean more = true; more; ) {
      consequences.found.clear();
      consequences.look();
      more = !consequences.found.isEmpty();
      for (Map.Entry<Answer, Set<Integer>> entry : consequences.found.entrySet()) {
        Decision decision =
            Decision.of(
                List.copyOf(entry.getValue()),
                Optional.empty(),
                entry.getKey(),
                by,
                at,
                BECAUSE.get(entry.getKey()));
        review.add(decision);
        decisions.add(decision);
      }
    }
    return decisions;
  }

  /** Whether a decision was not given, but followed from the one before it. */
  public static boolean isOne(Decision decision) {
    return BECAUSE.get(decision.answer()) != null
        && BECAUSE.get(decision.answer()).equals(decision.why());
  }

  private void look() {
    for (int id : review.ids()) {
      if (apart.contains(id) || review.standing(id) != Review.Standing.OPEN) {
        continue;
      }
      if (review.isUndecided(id)) {
        boolean source = taking && review.refusal(id, Optional.empty(), Answer.SOURCE).isEmpty();
        put(source ? Answer.SOURCE : Answer.TARGET, id);
        continue;
      }
      List<Integer> unmet = review.unmetNeeds(id);
      List<Integer> offers =
          unmet.stream().filter(need -> review.standing(need) == Review.Standing.OFFERED).toList();
      // What is open among its needs is decided first.
      boolean waits =
          unmet.stream().anyMatch(need -> review.standing(need) == Review.Standing.OPEN);
      if (taking && !offers.isEmpty()) {
        offers.forEach(need -> put(Answer.BRING, need));
      } else if (!waits || unmet.stream().allMatch(apart::contains)) {
        put(Answer.SKIP, id);
      }
    }
    if (found.isEmpty()) {
      breakCircle();
    }
  }

  /** Changes that only wait for each other. */
  private void breakCircle() {
    review.ids().stream()
        .filter(id -> !apart.contains(id) && review.standing(id) == Review.Standing.OPEN)
        .filter(id -> review.unmetNeeds(id).stream().noneMatch(apart::contains))
        .findFirst()
        .ifPresent(id -> put(Answer.SKIP, id));
  }

  private void put(Answer answer, int id) {
    found.computeIfAbsent(answer, unused -> new TreeSet<>()).add(id);
  }
}
