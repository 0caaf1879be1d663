package weftex.core.change;

import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import weftex.core.row.Value;

/**
 * A change as it was drafted, conflicts and all. Maps go from column to value, in the table's
 * column order.
 *
 * @param before the target's row as it was seen; empty for an added row
 * @param after the whole row for an added one, the changed columns for an updated one, else empty.
 *     Clashing columns are not in here but in {@code conflicts}
 * @param drafted the source's own values, in the target's terms, of columns that get others: merged
 *     inside, clashing, or decided, unless a conflict has the same, see {@link #own}
 * @param conflicts what needs a decision
 */
public record RowChange(
    Head head,
    Map<String, Value> before,
    Map<String, Value> after,
    Map<String, Value> drafted,
    List<Conflict> conflicts)
    implements Change {

  public RowChange {
    conflicts = List.copyOf(conflicts);
  }

  /** What it touches. */
  public Outline outline() {
    return new Outline(
        head,
        after.keySet(),
        conflicts.stream()
            .map(
                conflict ->
                    new Outline.Contest(
                        conflict.kind(),
                        conflict.binding(),
                        new LinkedHashSet<>(conflict.columns()),
                        conflict.otherwise().keySet()))
            .toList());
  }

  /** The row as it was and as it will be: what is written over what is there. */
  public Map<String, Value> values() {
    Map<String, Value> values = new LinkedHashMap<>(before);
    values.putAll(after);
    return values;
  }

  /**
   * The source's own values, in the target's terms, of columns that get others or on which both
   * copies clash. The base gets them once that is settled.
   */
  public Map<String, Value> own() {
    Map<String, Value> own = new LinkedHashMap<>(drafted);
    for (Conflict conflict : conflicts) {
      if (conflict.kind().isClash()) {
        conflict.source().forEach(own::putIfAbsent);
      }
    }
    return own;
  }
}
