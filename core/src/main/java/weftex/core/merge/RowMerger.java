package weftex.core.merge;

import java.util.List;
import java.util.Optional;
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
   * @param partly of those: what could be merged inside the value
   */
  public record Merged(
      SortedMap<Integer, Value> taken,
      SortedSet<Integer> clashing,
      SortedMap<Integer, Partly> partly) {

    /** Nothing to do. */
    public static final Merged NOTHING =
        new Merged(new TreeMap<>(), new TreeSet<>(), new TreeMap<>());

    /** The value that the target gets at a position if the source wins wherever both clash. */
    public Value ifSource(int position, Value source) {
      return partly.containsKey(position) ? partly.get(position).ifSource() : source;
    }

    /** Whether the target already is as the source wants it. */
    public boolean isNothing() {
      return taken.isEmpty() && clashing.isEmpty();
    }
  }

  /**
   * A value that was merged as far as possible.
   *
   * @param ifSource with the source's side wherever both clash
   * @param ifTarget with the target's
   * @param clashes what clashes, by path or passage; empty if nothing does
   */
  public record Partly(Value ifSource, Value ifTarget, List<String> clashes) {}

  /** Merges inside a value that both sides changed. */
  public interface InsideMerge {
    /** Knows no value's inside. */
    InsideMerge NONE = (position, base, source, target) -> Optional.empty();

    /**
     * Merges; empty if the value is one thing.
     *
     * @param base empty if both sides added it
     */
    Optional<Partly> merge(int position, Optional<Value> base, Value source, Value target);
  }

  /**
   * Merges a row that all three sides have. The three lists are in the order of the same columns;
   * the source's values are in the target's terms already.
   *
   * @param leftAlone positions that never change, such as the row's own number
   * @param inside merges what both sides changed
   */
  public Merged merge(
      List<Value> base,
      List<Value> source,
      List<Value> target,
      Set<Integer> leftAlone,
      InsideMerge inside) {
    SortedMap<Integer, Value> taken = new TreeMap<>();
    SortedSet<Integer> clashing = new TreeSet<>();
    SortedMap<Integer, Partly> partly = new TreeMap<>();
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
        settle(
            i,
            inside.merge(i, Optional.of(base.get(i)), wanted, target.get(i)),
            target.get(i),
            taken,
            clashing,
            partly);
      }
    }
    return new Merged(taken, clashing, partly);
  }

  /**
   * Merges a row that both sides added: values that differ clash, but for members inside of them
   * that only one side has.
   *
   * @param leftAlone positions that never change
   * @param inside merges what both sides added
   */
  public Merged mergeAdded(
      List<Value> source, List<Value> target, Set<Integer> leftAlone, InsideMerge inside) {
    SortedMap<Integer, Value> taken = new TreeMap<>();
    SortedSet<Integer> clashing = new TreeSet<>();
    SortedMap<Integer, Partly> partly = new TreeMap<>();
    for (int i = 0; i < source.size(); i++) {
      if (leftAlone.contains(i) || same.test(source.get(i), target.get(i))) {
        continue;
      }
      settle(
          i,
          inside.merge(i, Optional.empty(), source.get(i), target.get(i)),
          target.get(i),
          taken,
          clashing,
          partly);
    }
    return new Merged(taken, clashing, partly);
  }

  private void settle(
      int position,
      Optional<Partly> merged,
      Value target,
      SortedMap<Integer, Value> taken,
      SortedSet<Integer> clashing,
      SortedMap<Integer, Partly> partly) {
    boolean whole = merged.isPresent() && merged.get().clashes().isEmpty();
    if (!whole) {
      clashing.add(position);
      merged.ifPresent(some -> partly.put(position, some));
    } else if (!same.test(merged.get().ifSource(), target)) {
      taken.put(position, merged.get().ifSource());
    }
  }
}
