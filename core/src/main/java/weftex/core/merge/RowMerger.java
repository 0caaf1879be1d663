package weftex.core.merge;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.BiPredicate;
import weftex.core.row.Value;

/** Three-way merge of one row, column by column. */
public final class RowMerger {
  private final BiPredicate<Value, Value> same;

  /**
   * @param same when two values are the same
   */
  public RowMerger(BiPredicate<Value, Value> same) {
    this.same = same;
  }

  /**
   * What of the source's row goes into the target's.
   *
   * @param taken positions and values that only the source changed
   * @param clashing positions that both changed, each in its own way
   */
  public record Merged(SortedMap<Integer, Value> taken, SortedSet<Integer> clashing) {

    /** Whether the target already is as the source wants it. */
    public boolean isNothing() {
      return taken.isEmpty() && clashing.isEmpty();
    }
  }

  /**
   * Merges a row that all three sides have. The three lists are in the order of the same columns;
   * the source's values are in the target's terms already.
   *
   * @param leftAlone positions that never change, such as the row's own number
   */
  public Merged merge(
      List<Value> base, List<Value> source, List<Value> target, Set<Integer> leftAlone) {
    SortedMap<Integer, Value> taken = new TreeMap<>();
    SortedSet<Integer> clashing = new TreeSet<>();
    for (int i = 0; i < source.size(); i++) {
      Value wanted = source.get(i);
      if (leftAlone.contains(i)
          || same.test(wanted, base.get(i))
          || same.test(wanted, target.get(i))) {
        continue;
      }
      if (same.test(base.get(i), target.get(i))) {
        taken.put(i, wanted);
      } else {
        clashing.add(i);
      }
    }
    return new Merged(taken, clashing);
  }

  /** The positions at which a row that both sides added differs, with the source's values. */
  public SortedMap<Integer, Value> differing(
      List<Value> source, List<Value> target, Set<Integer> leftAlone) {
    SortedMap<Integer, Value> differing = new TreeMap<>(Map.of());
    for (int i = 0; i < source.size(); i++) {
      if (!leftAlone.contains(i) && !same.test(source.get(i), target.get(i))) {
        differing.put(i, source.get(i));
      }
    }
    return differing;
  }
}
