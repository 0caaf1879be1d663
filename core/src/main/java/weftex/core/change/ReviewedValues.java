package weftex.core.change;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;

/** What the decisions make of the values of a change. */
final class ReviewedValues {
  private final RowChange change;
  private final int id;
  private final Review review;
  private final Said said;

  ReviewedValues(RowChange change, Review review) {
    this.change = change;
    this.id = change.id();
    this.review = review;
    this.said = review.said(id);
  }

  /** What would be written into a column now. */
  Value current(String column) {
    Value written = said.values().get(column);
    if (written != null) {
      return written;
    }
    for (Conflict conflict : change.conflicts()) {
      if (conflict.columns().contains(column) && conflict.source().containsKey(column)) {
        boolean open = said.of(column).or(() -> said.of("")).isEmpty();
        return open || review.answer(id, column) != Answer.TARGET
            ? conflict.source().get(column)
            : conflict.ifTarget(column).orElse(Value.NULL);
      }
    }
    return change.after().getOrDefault(column, Value.NULL);
  }

  /** The change as it is to be made. */
  DecidedChange decided() {
    Set<String> absent = review.absentColumns(change.table());
    if (absent.isEmpty() && change.conflicts().isEmpty() && said.values().isEmpty()) {
      return new DecidedChange(change.head(), change.before(), change.after(), change.drafted());
    }
    Map<String, Value> before = new LinkedHashMap<>(change.before());
    before.keySet().removeAll(absent);
    Map<String, Value> after =
        change.action() == Action.UPDATE ? updated() : new LinkedHashMap<>(change.after());
    if (change.action() != Action.REMOVE) {
      after.putAll(said.values());
    }
    after.keySet().removeAll(absent);
    Map<String, Value> drafted = drafted();
    drafted.keySet().removeAll(absent);
    drafted.entrySet().removeAll(after.entrySet());
    return new DecidedChange(change.head(), before, after, drafted);
  }

  /** What an update writes: each column in conflict as its side was chosen. */
  private Map<String, Value> updated() {
    Map<String, Value> after = new LinkedHashMap<>(change.after());
    for (Conflict conflict : change.conflicts()) {
      after.putAll(conflict.source());
      conflict
          .otherwise()
          .forEach(
              (column, value) -> {
                if (review.answer(id, column) == Answer.TARGET) {
                  after.put(column, value);
                }
              });
    }
    Set<String> columns = review.columns(id);
    after.keySet().retainAll(columns);
    after.putAll(said.composed(change, columns));
    return after;
  }

  /** The source's own values of columns that may get others. */
  private Map<String, Value> drafted() {
    Map<String, Value> drafted = change.own();
    for (String column : said.values().keySet()) {
      Value own = change.after().get(column);
      if (own != null) {
        drafted.putIfAbsent(column, own);
      }
    }
    drafted.keySet().removeIf(this::isKeptByRule);
    for (Conflict conflict : change.conflicts()) {
      for (String column : conflict.otherwise().keySet()) {
        if (isKeptByRule(column)) {
          drafted.put(column, Unsettled.of(conflict, column));
        }
      }
    }
    return drafted;
  }

  /** What of it stays as the target has it; empty if nothing does. */
  Optional<KeptChange> kept() {
    if (change.action() != Action.UPDATE) {
      return Optional.of(new KeptChange(change.head(), change.after()));
    }
    Map<String, Value> own = new LinkedHashMap<>(change.own());
    if (!change.withAny().isEmpty()) {
      change.after().forEach(own::putIfAbsent);
    }
    own.keySet().removeIf(this::isKeptByRule);
    return own.isEmpty() ? Optional.empty() : Optional.of(new KeptChange(change.head(), own));
  }

  /** Whether a rule, and no person, decided that a column keeps the target's value. */
  private boolean isKeptByRule(String column) {
    return said.isRuled(column) && review.answer(id, column) == Answer.TARGET;
  }
}
