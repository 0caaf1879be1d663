package weftex.core.compare;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import weftex.core.row.Table;

/**
 * Which ranges of a table are alike on all three sides, by their digests, and which must be read.
 *
 * @param rows how many rows are in the ranges that are alike
 * @param open the other ranges, ascending; neighbours are joined
 * @param readsAll whether the whole table is read at once, as too much differs
 * @param width how many keys a range spans
 * @param read those of the other ranges that source and target both have, as they have them
 */
record Settlement(
    long rows, List<KeyRange> open, boolean readsAll, long width, List<KnownRanges.Digests> read) {

  /** Where more than this share of the ranges differs, the whole table is read at once. */
  private static final double WORTH_IT = 0.3;

  /** Settles what can be settled; empty if a side has no digests. */
  static Optional<Settlement> of(Table table, Comparison.Sides sides) throws IOException {
    boolean ranged =
        sides.base() instanceof RangedSide
            && sides.source() instanceof RangedSide
            && sides.target() instanceof RangedSide;
    if (!ranged || table.key().size() != 1) {
      return Optional.empty();
    }
    Optional<RangeDigests> base = ((RangedSide) sides.base()).digests(table, 0);
    if (base.isEmpty()) {
      return Optional.empty();
    }
    long width = base.get().width();
    CompletableFuture<Optional<RangeDigests>> ofSource =
        CompletableFuture.supplyAsync(() -> digests((RangedSide) sides.source(), table, width));
    Optional<RangeDigests> target = ((RangedSide) sides.target()).digests(table, width);
    Optional<RangeDigests> source;
    try {
      source = ofSource.join();
    } catch (CompletionException e) {
      throw e.getCause() instanceof java.io.UncheckedIOException io
          ? io.getCause()
          : new IOException(e.getCause());
    }
    if (source.isEmpty() || target.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(between(table, base.get(), source.get(), target.get(), sides.known()));
  }

  private static Optional<RangeDigests> digests(RangedSide side, Table table, long width) {
    try {
      return side.digests(table, width);
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  static Settlement between(
      Table table, RangeDigests base, RangeDigests source, RangeDigests target, KnownRanges known) {
    List<KnownRanges.Digests> read = new ArrayList<>();
    long rows = 0;
    int all = 0;
    int differing = 0;
    List<KeyRange> open = new ArrayList<>();
    int b = 0;
    int s = 0;
    int t = 0;
    while (b < base.size() || s < source.size() || t < target.size()) {
      long range = Math.min(at(base, b), Math.min(at(source, s), at(target, t)));
      boolean inBase = at(base, b) == range;
      boolean inSource = at(source, s) == range;
      boolean inTarget = at(target, t) == range;
      all++;
      if (inBase && inSource && inTarget && same(base, b, source, s) && same(base, b, target, t)) {
        rows += base.rows(b);
      } else if (inSource
          && inTarget
          && isKnown(digests(range, source, s, target, t), table, base.width(), known, read)) {
        rows += target.rows(t);
      } else {
        differing++;
        open(open, range, base.width());
      }
      b += inBase ? 1 : 0;
      s += inSource ? 1 : 0;
      t += inTarget ? 1 : 0;
    }
    boolean readsAll = differing > all * WORTH_IT && differing > 1;
    return new Settlement(
        readsAll ? 0 : rows, readsAll ? List.of() : open, readsAll, base.width(), read);
  }

  private static KnownRanges.Digests digests(
      long range, RangeDigests source, int s, RangeDigests target, int t) {
    return new KnownRanges.Digests(
        range, source.rows(s), source.digest(s), target.rows(t), target.digest(t));
  }

  private static boolean isKnown(
      KnownRanges.Digests digests,
      Table table,
      long width,
      KnownRanges known,
      List<KnownRanges.Digests> read) {
    if (known.isAlike(table, width, digests)) {
      known.alike(table, width, digests);
      return true;
    }
    read.add(digests);
    return false;
  }

  /** Tells which of the ranges that were read had no difference in them. */
  void tell(Table table, Set<Long> differing, KnownRanges known) {
    for (KnownRanges.Digests digests : read) {
      if (!differing.contains(digests.range())) {
        known.alike(table, width, digests);
      }
    }
  }

  private static long at(RangeDigests digests, int index) {
    return index < digests.size() ? digests.range(index) : Long.MAX_VALUE;
  }

  private static boolean same(RangeDigests one, int i, RangeDigests other, int j) {
    return one.rows(i) == other.rows(j) && one.digest(i) == other.digest(j);
  }

  private static void open(List<KeyRange> open, long range, long width) {
    long first = range * width;
    long last = first + width - 1;
    if (!open.isEmpty() && open.get(open.size() - 1).last() == first - 1) {
      first = open.remove(open.size() - 1).first();
    }
    open.add(new KeyRange(first, last));
  }
}
