package weftex.core.match;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import weftex.core.compare.Difference;
import weftex.core.compare.DifferenceLog;
import weftex.core.merge.RowMerger;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Value;

/**
 * What rows were found to be, written behind the differences that they were read from: the source's
 * values in the target's terms, and what they merge to. So neither is worked out again where memory
 * has no room for it. What is as the difference has it is not written a second time.
 */
public final class SettledSides {
  private static final SortKey NO_KEY = new SortKey(new byte[0]);

  /** What is written, and what is said by that alone: bits in the place of the table. */
  private static final int BASE = 1;

  private static final int TARGET = 2;
  private static final int SOURCE = 4;
  private static final int FRESH = 8;
  private static final int MERGED = 16;

  private final DifferenceLog log;

  private final Map<Integer, Places> byTable = new HashMap<>();

  /**
   * Where what was found of a table's rows is, sixteen bytes a row. Rows are written in the order
   * of their differences.
   */
  private static final class Places {
    private long[] differences = new long[16];
    private long[] found = new long[16];
    private int size;

    void add(long difference, long at) {
      if (size == found.length) {
        differences = Arrays.copyOf(differences, size * 2);
        found = Arrays.copyOf(found, size * 2);
      }
      differences[size] = difference;
      found[size++] = at;
    }

    boolean isBehind(long difference) {
      return size == 0 || differences[size - 1] < difference;
    }

    OptionalLong of(long difference) {
      int at = Arrays.binarySearch(differences, 0, size, difference);
      return at < 0 ? OptionalLong.empty() : OptionalLong.of(found[at]);
    }
  }

  public SettledSides(DifferenceLog log) {
    this.log = log;
  }

  /**
   * Writes a row. One that comes before another of its table, which was written already, is passed
   * over.
   *
   * @param at where its difference is
   * @param read that difference
   */
  public void write(long at, Difference read, Sides sides) throws IOException {
    Places places = byTable.computeIfAbsent(read.table(), unused -> new Places());
    if (!places.isBehind(at)) {
      return;
    }
    boolean ownBase = !isAs(sides.base(), read.base());
    boolean ownTarget = !isAs(sides.target(), read.target());
    boolean ownSource = !sides.source().equals(sides.rawSource());
    OpenValues.Writer values = new OpenValues.Writer();
    if (ownSource) {
      values.values(sides.source());
    }
    sides.merged().ifPresent(merged -> put(values, merged, sides.source()));
    int what =
        (ownBase ? BASE : 0)
            | (ownTarget ? TARGET : 0)
            | (ownSource ? SOURCE : 0)
            | (sides.merged().isPresent() ? MERGED : 0)
            | (sides.fresh() ? FRESH : 0);
    places.add(
        at,
        log.append(
            new Difference(
                what,
                ownBase ? sides.base() : Row.ABSENT,
                Row.of(NO_KEY, values.written()),
                ownTarget ? sides.target() : Row.ABSENT)));
  }

  /**
   * A row as it was written; empty if it was not.
   *
   * @param at where its difference is
   * @param read that difference
   */
  public Optional<Sides> read(long at, Difference read) throws IOException {
    Places places = byTable.get(read.table());
    OptionalLong place = places == null ? OptionalLong.empty() : places.of(at);
    if (place.isEmpty()) {
      return Optional.empty();
    }
    Difference found = log.read(place.getAsLong());
    int what = found.table();
    List<Value> raw = read.source().isPresent() ? read.source().values() : List.of();
    OpenValues.Reader values = new OpenValues.Reader(found.source().values());
    List<Value> source = (what & SOURCE) != 0 ? values.values() : raw;
    Sides sides =
        new Sides(
            (what & BASE) != 0 ? found.base() : read.base(),
            source,
            raw,
            (what & TARGET) != 0 ? found.target() : read.target(),
            (what & FRESH) != 0);
    if ((what & MERGED) != 0) {
      sides.know(merged(values, source));
    }
    return Optional.of(sides);
  }

  private static boolean isAs(Row one, Row other) {
    return one == other
        || one.isPresent()
            && other.isPresent()
            && one.key().equals(other.key())
            && one.sameValues(other);
  }

  private static void put(OpenValues.Writer values, RowMerger.Merged merged, List<Value> source) {
    values.number(merged.taken().size());
    merged
        .taken()
        .forEach(
            (position, value) -> {
              // Mostly it is the source's value, which may be long.
              boolean own = !value.equals(source.get(position));
              values.number(position);
              values.values(own ? List.of(value) : List.of());
            });
    values.number(merged.clashing().size());
    merged.clashing().forEach(values::number);
    values.number(merged.partly().size());
    merged
        .partly()
        .forEach(
            (position, partly) -> {
              values.number(position);
              values.value(partly.ifSource());
              values.value(partly.ifTarget());
              values.number(partly.clashes().size());
              partly.clashes().forEach(values::text);
            });
  }

  private static RowMerger.Merged merged(OpenValues.Reader values, List<Value> source) {
    SortedMap<Integer, Value> taken = new TreeMap<>();
    for (int left = values.number(); left > 0; left--) {
      int position = values.number();
      List<Value> own = values.values();
      taken.put(position, own.isEmpty() ? source.get(position) : own.get(0));
    }
    SortedSet<Integer> clashing = new TreeSet<>();
    for (int left = values.number(); left > 0; left--) {
      clashing.add(values.number());
    }
    SortedMap<Integer, RowMerger.Partly> partly = new TreeMap<>();
    for (int left = values.number(); left > 0; left--) {
      int position = values.number();
      Value ifSource = values.value();
      Value ifTarget = values.value();
      List<String> clashes = new ArrayList<>();
      for (int more = values.number(); more > 0; more--) {
        clashes.add(values.text());
      }
      partly.put(position, new RowMerger.Partly(ifSource, ifTarget, clashes));
    }
    return new RowMerger.Merged(taken, clashing, partly);
  }
}
