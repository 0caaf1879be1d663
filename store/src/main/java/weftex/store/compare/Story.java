package weftex.store.compare;

import java.time.Instant;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.match.PastMerges;
import weftex.core.row.Value;
import weftex.store.receipt.MergedRows;

/** What merges made of a row, one after the other. */
final class Story {
  private final Map<String, Value> onTarget = new LinkedHashMap<>();
  private final Map<String, Value> onSource = new LinkedHashMap<>();
  private boolean told;
  private boolean removed;
  private boolean added;
  private boolean kept;
  private boolean left;

  /**
   * The order within one copy is its ledger's; only what both copies' ledgers tell is put in order
   * by time.
   */
  static Story of(List<MergedRows.Settled> into, List<MergedRows.Settled> back) {
    Story story = new Story();
    int at = 0;
    for (MergedRows.Settled settled : into) {
      while (at < back.size() && isBefore(back.get(at), settled)) {
        story.tell(back.get(at++), story.onSource, story.onTarget);
      }
      story.tell(settled, story.onTarget, story.onSource);
    }
    for (MergedRows.Settled settled : back.subList(at, back.size())) {
      story.tell(settled, story.onSource, story.onTarget);
    }
    return story;
  }

  private static boolean isBefore(MergedRows.Settled one, MergedRows.Settled other) {
    return Instant.parse(one.at()).isBefore(Instant.parse(other.at()));
  }

  private void tell(
      MergedRows.Settled settled, Map<String, Value> values, Map<String, Value> others) {
    told = true;
    kept =
        settled.kept()
            && (values == onSource
                ? settled.action() == Action.REMOVE
                : settled.action() == Action.ADD);
    left =
        settled.kept()
            && (values == onSource
                ? settled.action() == Action.ADD
                : settled.action() == Action.REMOVE);
    removed = settled.action() == Action.REMOVE;
    if (settled.action() != Action.UPDATE) {
      values.clear();
      others.clear();
      added = settled.action() == Action.ADD;
    }
    values.putAll(settled.values());
    others.keySet().removeAll(settled.values().keySet());
  }

  boolean isNothing() {
    return !told;
  }

  /** Whether the last merge of it removed it. */
  boolean isRemoved() {
    return removed;
  }

  /** Whether the source has the row and the target has not, as somebody decided. */
  boolean isKept() {
    return kept;
  }

  /** Whether the target has the row and the source has not, as somebody decided. */
  boolean isLeft() {
    return left;
  }

  /** What is known of the row; its own key is not what the source's number is. */
  PastMerges.Left left(List<String> columns, Map<String, Value> key) {
    Map<String, Value> here = new LinkedHashMap<>(onTarget);
    Map<String, Value> there = new LinkedHashMap<>(onSource);
    here.putAll(key);
    there.keySet().removeAll(key.keySet());
    Set<String> known = new HashSet<>(here.keySet());
    known.addAll(there.keySet());
    // Of a row that both copies added, all values are known only if all were in question.
    return new PastMerges.Left(here, there, added || known.containsAll(columns));
  }
}
