package weftex.store.copy;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestReporter;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.rows.RowDigest;

/**
 * Edits of a range of rows as people and programs make them: the same in many rows, exchanges,
 * rotations, increments. Cut down to few bits, the digest of a range overlooks them as often as
 * chance would, and not more often, whatever their structure. {@code -Pfull -Dcollisions=120000000}
 * tries so many at 24 bits, which takes some minutes.
 */
class DigestCollisionsTest {
  private static final int QUICK = 60_000;
  private static final int FEW = 250_000;
  private static final List<Column> COLUMNS =
      List.of(
          column("id", ValueKind.WHOLE, "int(11)"),
          column("enabled", ValueKind.WHOLE, "tinyint(1)"),
          column("place", ValueKind.WHOLE, "int(11)"),
          column("parent", ValueKind.WHOLE, "bigint(20) unsigned"),
          column("price", ValueKind.DECIMAL, "decimal(8,2)"),
          column("sails", ValueKind.TEXT, "datetime"),
          column("title", ValueKind.TEXT, "varchar(200)"),
          column("raw", ValueKind.BINARY, "varbinary(16)"));
  private static final Table TABLE =
      new Table("sailings", COLUMNS, List.of(0), 0, List.of(), List.of());

  /** Windows on the digest: some of both halves, and each half alone. */
  private enum Window {
    BOTH,
    LOW,
    HIGH;

    long cut(long digest, int bits) {
      long mask = (1L << bits) - 1;
      return switch (this) {
        case BOTH -> digest & mask >>> bits / 2 | (digest >>> Integer.SIZE << bits / 2) & mask;
        case LOW -> digest & mask;
        case HIGH -> digest >>> Integer.SIZE & mask;
      };
    }
  }

  private static Column column(String name, ValueKind kind, String type) {
    return new Column(name, kind, type, 0, true, false, false);
  }

  /**
   * Counts of one structure of edits, such as "the same value in four rows with equal values".
   *
   * @param overlooked by window
   */
  private record Cell(long tried, long[] overlooked) {
    private Cell() {
      this(0, new long[Window.values().length]);
    }

    private Cell and(Cell other) {
      long[] sum = overlooked.clone();
      for (int i = 0; i < sum.length; i++) {
        sum[i] += other.overlooked[i];
      }
      return new Cell(tried + other.tried, sum);
    }

    /** Beyond this a count is no chance any more: five standard deviations. */
    private double most(int bits) {
      double expected = (double) tried / (1L << bits);
      return expected + 5 * Math.sqrt(expected) + 3;
    }
  }

  @Test
  void someEditsOfARangeAreOverlookedByChanceAlone(TestReporter reporter) {
    overlooked(QUICK, reporter);
  }

  @Test
  @Tag("full")
  void editsOfARangeAreOverlookedByChanceAlone(TestReporter reporter) {
    overlooked(Integer.getInteger("collisions", FEW), reporter);
  }

  private static void overlooked(int wanted, TestReporter reporter) {
    int bits = wanted > FEW ? 24 : 8;
    int parts = 64;
    Map<String, Cell> cells =
        IntStream.range(0, parts)
            .parallel()
            .mapToObj(part -> count(part, wanted / parts, bits))
            .reduce(Map.of(), DigestCollisionsTest::sum);
    Cell all = cells.values().stream().reduce(new Cell(), Cell::and);
    reporter.publishEntry(
        all.tried()
            + " edits, cut to "
            + bits
            + " bits: overlooked "
            + Arrays.toString(all.overlooked())
            + ", by chance "
            + (double) all.tried() / (1L << bits));
    assertThat(all.tried()).isGreaterThan(wanted * 8L / 10);
    cells.forEach(
        (structure, cell) -> {
          for (Window window : Window.values()) {
            assertThat((double) cell.overlooked()[window.ordinal()])
                .as(structure + ", " + window)
                .isLessThan(cell.most(bits));
          }
        });
    for (Window window : Window.values()) {
      assertThat((double) all.overlooked()[window.ordinal()])
          .as("all edits, " + window)
          .isLessThan(all.most(bits));
    }
  }

  private static Map<String, Cell> sum(Map<String, Cell> one, Map<String, Cell> other) {
    Map<String, Cell> sum = new TreeMap<>(one);
    other.forEach((structure, cell) -> sum.merge(structure, cell, Cell::and));
    return sum;
  }

  private static Map<String, Cell> count(int seed, int edits, int bits) {
    SplittableRandom random = new SplittableRandom(seed);
    RowDigest digest = new RowDigest(TABLE);
    Map<String, Cell> cells = new TreeMap<>();
    for (int i = 0; i < edits; i++) {
      int style = random.nextInt(3);
      int kind = random.nextInt(6);
      Value[][] before = range(style, random);
      List<Integer> chosen = chosen(before.length, random);
      Value[][] after = edited(kind, before, chosen, random);
      long difference = 0;
      boolean differs = false;
      for (int row = 0; row < before.length; row++) {
        if (!Arrays.equals(before[row], after[row])) {
          differs = true;
          difference ^= digest.of(row(before[row])) ^ digest.of(row(after[row]));
        }
      }
      if (differs) {
        long[] overlooked = new long[Window.values().length];
        for (Window window : Window.values()) {
          overlooked[window.ordinal()] = window.cut(difference, bits) == 0 ? 1 : 0;
        }
        String structure =
            "edit " + kind + " of " + Math.min(9, chosen.size()) + " rows of style " + style;
        cells.merge(structure, new Cell(1, overlooked), Cell::and);
      }
    }
    return cells;
  }

  private static Row row(Value[] values) {
    long key = ((Value.Whole) values[0]).number().longValue();
    return Row.of(SortKey.ofWhole(key), List.of(values));
  }

  /** Rows of neighbouring keys, whose values are all equal, count up, or vary. */
  private static Value[][] range(int style, SplittableRandom random) {
    int size = random.nextInt(4) == 0 ? 2 + random.nextInt(63) : 2 + random.nextInt(6);
    long first = random.nextInt(3) == 0 ? 1 : random.nextLong(1L << 1 + random.nextInt(40));
    int start = random.nextInt(1_000_000);
    Value[][] rows = new Value[size][];
    for (int i = 0; i < size; i++) {
      int n = style == 0 ? start : style == 1 ? start + i : start + random.nextInt(5);
      Value[] row = new Value[COLUMNS.size()];
      row[0] = Value.whole(first + i);
      for (int c = 1; c < row.length; c++) {
        row[c] = value(c, n);
      }
      rows[i] = row;
    }
    return rows;
  }

  private static Value value(int column, long n) {
    if (n % 11 == 10) {
      return Value.NULL;
    }
    return switch (COLUMNS.get(column).name()) {
      case "enabled" -> Value.whole(n % 2);
      case "price" -> new Value.Decimal(n / 100 + "." + n / 10 % 10 + n % 10);
      case "sails" -> Value.text("2026-11-" + (10 + n % 20) + " 06:00:0" + n % 10);
      case "title" -> Value.text("Sailing " + n);
      case "raw" -> new Value.Binary(new byte[] {(byte) n, (byte) (n >> 8), (byte) (n >> 16)});
      default -> Value.whole(n);
    };
  }

  private static Value[][] edited(
      int kind, Value[][] before, List<Integer> chosen, SplittableRandom random) {
    Value[][] after = new Value[before.length][];
    for (int i = 0; i < before.length; i++) {
      after[i] = before[i].clone();
    }
    int column = 1 + random.nextInt(COLUMNS.size() - 1);
    int to = random.nextInt(1_000_000);
    switch (kind) {
      case 0 -> chosen.forEach(i -> after[i][column] = value(column, to));
      case 1 -> chosen.forEach(i -> after[i][column] = value(column, to + i));
      case 2 -> chosen.forEach(i -> after[i][column] = Value.NULL);
      case 3 -> rotate(before, after, chosen, column, column + 1);
      case 4 -> rotate(before, after, chosen, 1, COLUMNS.size());
      default ->
          chosen.forEach(
              i ->
                  after[i][1] =
                      before[i][1].isNull() || before[i][1].equals(Value.whole(0))
                          ? Value.whole(1)
                          : Value.whole(0));
    }
    return after;
  }

  /** Two rows, some, or all. */
  private static List<Integer> chosen(int size, SplittableRandom random) {
    int style = random.nextInt(3);
    List<Integer> chosen = new ArrayList<>();
    int first = random.nextInt(size);
    int second = (first + 1 + random.nextInt(size - 1)) % size;
    for (int i = 0; i < size; i++) {
      if (style == 0 || i == first || i == second || style == 1 && random.nextBoolean()) {
        chosen.add(i);
      }
    }
    return chosen;
  }

  /** Every chosen row gets the values of the next. */
  private static void rotate(
      Value[][] before, Value[][] after, List<Integer> chosen, int from, int to) {
    for (int i = 0; i < chosen.size(); i++) {
      Value[] next = before[chosen.get((i + 1) % chosen.size())];
      System.arraycopy(next, from, after[chosen.get(i)], from, to - from);
    }
  }
}
