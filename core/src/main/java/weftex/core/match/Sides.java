package weftex.core.match;

import java.io.IOException;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.merge.RowMerger;
import weftex.core.row.Row;
import weftex.core.row.Value;

/**
 * A row on its three sides after matching: the source's values are in the target's terms, and the
 * target's row is the one that is the same thing, which may have another number. What is merged of
 * it is remembered with it.
 */
public final class Sides {
  private final Row base;
  private final List<Value> source;
  private final List<Value> rawSource;
  private final Row target;
  private final boolean fresh;
  private Optional<RowMerger.Merged> merged = Optional.empty();

  /**
   * A row.
   *
   * @param source in the target's terms; empty if the source lacks the row
   * @param rawSource the same as it is on the source
   * @param fresh whether the row is new to the target
   */
  public Sides(Row base, List<Value> source, List<Value> rawSource, Row target, boolean fresh) {
    this.base = base;
    this.source = Collections.unmodifiableList(source);
    this.rawSource = Collections.unmodifiableList(rawSource);
    this.target = target;
    this.fresh = fresh;
  }

  /**
   * Matches a row.
   *
   * @param at where its difference is
   * @param row that difference
   */
  public static Sides of(Comparison comparison, Matching matching, long at, Difference row)
      throws IOException {
    if (!row.source().isPresent()) {
      Row target = row.target().isPresent() ? row.target() : matching.madeAnewOnTarget(at, row);
      Row left = matching.baseOfRemoved(row.table(), row.base(), target);
      Row base = comparison.baseSpelled(row.table(), left, target);
      return new Sides(base, List.of(), List.of(), target, false);
    }
    List<Value> raw = row.source().values();
    var found = matching.newcomers().at(at);
    if (found.isEmpty()) {
      Row base = matching.base(row.table(), row.base(), raw);
      return new Sides(base, matching.mapped(row.table(), raw), raw, row.target(), false);
    }
    List<Value> mapped = matching.mapped(found.get());
    if (matching.fates().of(found.get()) instanceof Newcomer.Matched matched) {
      mapped = comparison.spelled(row.table(), mapped, matched.row());
      if (!comparison.hasBase()) {
        // The target stands for the base, whatever pairs the two.
        return new Sides(matched.row(), mapped, raw, matched.row(), false);
      }
      Row base =
          matched.removedAt() < 0
              ? matching.left(row.table(), raw, mapped, matched.row())
              : matching.base(row.table(), comparison.log().read(matched.removedAt()).base(), raw);
      Row spelled = comparison.baseSpelled(row.table(), base, matched.row());
      return new Sides(spelled, mapped, raw, matched.row(), false);
    }
    if (matching.fates().of(found.get()) instanceof Newcomer.Gone gone) {
      Row base = matching.left(row.table(), gone, row.source().key(), raw, mapped);
      return new Sides(base, mapped, raw, Row.ABSENT, false);
    }
    return new Sides(Row.ABSENT, mapped, raw, Row.ABSENT, true);
  }

  public Row base() {
    return base;
  }

  public List<Value> source() {
    return source;
  }

  public List<Value> rawSource() {
    return rawSource;
  }

  public Row target() {
    return target;
  }

  public boolean fresh() {
    return fresh;
  }

  /** What the row merges to, if that was asked before. */
  Optional<RowMerger.Merged> merged() {
    return merged;
  }

  void know(RowMerger.Merged known) {
    merged = Optional.of(known);
  }

  /** What the row merges to; {@code merge} is asked the first time. */
  public RowMerger.Merged merged(Supplier<RowMerger.Merged> merge) {
    if (merged.isEmpty()) {
      merged = Optional.of(merge.get());
    }
    return merged.get();
  }

  public boolean inSource() {
    return !source.isEmpty();
  }
}
