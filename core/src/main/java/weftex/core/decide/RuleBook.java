package weftex.core.decide;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Conflict;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/**
 * Applies standing rules to the changes of a change set. Of several rules for the same thing the
 * first counts; what somebody has decided already is left alone.
 */
public final class RuleBook {
  private final List<StandingRule> rules;
  private final String from;
  private final Review review;
  private final Set<String> newTables = new HashSet<>();
  private final Map<Key, List<Integer>> made = new LinkedHashMap<>();

  private record Key(
      StandingRule rule,
      Optional<String> column,
      Optional<Decision.Passage> passage,
      Answer answer) {}

  /**
   * @param from the copy that the changes come from
   * @param review with all that was decided already; it must know a change before it is seen here
   */
  public RuleBook(List<StandingRule> rules, String from, Review review) {
    this.rules = List.copyOf(rules);
    this.from = from;
    this.review = review;
  }

  /** Sees a new table or column, before all rows. */
  public void see(SchemaChange change) {
    if (change.column().isEmpty()) {
      newTables.add(change.table());
    }
    for (StandingRule rule : rules) {
      if (rule.keep().isEmpty() && rule.column().isEmpty() && rule.which().chooses(change)) {
        leaveOut(rule, change.id());
        return;
      }
    }
  }

  /** Sees a change of a row. */
  public void see(RowChange change) {
    Set<String> settled = new HashSet<>();
    for (StandingRule rule : rules) {
      if (!rule.which().chooses(change, change.values(), newTables.contains(change.table()))) {
        continue;
      }
      if (rule.keep().isEmpty()) {
        leaveOut(rule, change.id());
        return;
      }
      if (rule.isBoth()) {
        both(rule, change, settled);
      } else {
        settle(rule, change, settled);
      }
    }
  }

  private void leaveOut(StandingRule rule, int id) {
    boolean undecided =
        review.standing(id) == Review.Standing.MADE || review.standing(id) == Review.Standing.OPEN;
    if (undecided) {
      enter(new Key(rule, Optional.empty(), Optional.empty(), Answer.SKIP), id);
    }
  }

  private void settle(StandingRule rule, RowChange change, Set<String> settled) {
    Answer answer = rule.keep().orElseThrow().equals(from) ? Answer.SOURCE : Answer.TARGET;
    if (rule.column().isEmpty()) {
      boolean open = !change.conflicts().isEmpty() && !settled.contains("");
      if (open && isOpen(change) && settled.add("")) {
        enter(new Key(rule, rule.column(), Optional.empty(), answer), change.id());
      }
      return;
    }
    String column = rule.column().get();
    boolean contested =
        change.conflicts().stream().map(Conflict::columns).anyMatch(c -> c.contains(column));
    boolean free = !settled.contains("") && review.said(change.id(), column).isEmpty();
    if (contested && free && isOpen(change) && settled.add(column)) {
      enter(new Key(rule, rule.column(), Optional.empty(), answer), change.id());
    }
  }

  /** Both have their words in one text; a title of two titles is none. */
  private void both(StandingRule rule, RowChange change, Set<String> settled) {
    String column = rule.column().orElse("");
    boolean free =
        !column.isEmpty()
            && !settled.contains("")
            && review.said(change.id(), column).isEmpty()
            && isOpen(change)
            && settled.add(column);
    for (Conflict conflict : free ? change.conflicts() : List.<Conflict>of()) {
      for (Decision.Passage passage : conflict.allPassages(column)) {
        enter(new Key(rule, rule.column(), Optional.of(passage), Answer.BOTH), change.id());
      }
    }
  }

  private boolean isOpen(RowChange change) {
    return review.said(change.id(), "").isEmpty()
        && change.conflicts().stream()
            .anyMatch(conflict -> review.open(change.id()).contains(conflict.kind()));
  }

  private void enter(Key key, int id) {
    if (review.refusal(id, key.column(), key.answer()).isEmpty()) {
      made.computeIfAbsent(key, unused -> new ArrayList<>()).add(id);
    }
  }

  /**
   * What the rules decided, in their order.
   *
   * @param at the time, as an ISO 8601 instant
   */
  public List<Decision> decisions(String at) {
    List<Decision> decisions = new ArrayList<>();
    made.forEach(
        (key, ids) ->
            decisions.add(
                new Decision(
                    ids,
                    key.column(),
                    key.passage(),
                    key.answer(),
                    Optional.empty(),
                    key.rule().by(),
                    at,
                    key.rule().why())));
    return decisions;
  }
}
