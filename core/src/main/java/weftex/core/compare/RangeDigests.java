package weftex.core.compare;

/**
 * Digests of the rows of a table, by ranges of equal width: range {@code n} holds the keys from
 * {@code n * width} up to the next. Ranges without rows are left out. The digest of a range is the
 * exclusive or of its rows' digests, so ranges can be joined.
 */
public final class RangeDigests {
  /** More ranges than this are joined, so that memory does not grow with the table. */
  private static final int MOST = 1 << 16;

  private final long width;
  private long[] ranges = new long[1024];
  private long[] rows = new long[1024];
  private long[] digests = new long[1024];
  private int size;

  /**
   * @param width how many keys a range spans
   */
  public RangeDigests(long width) {
    this.width = width;
  }

  /**
   * Adds a range, which must not be before the last; one that equals the last is joined with it.
   */
  public void add(long range, long rowsInIt, long digest) {
    if (size > 0 && ranges[size - 1] == range) {
      rows[size - 1] += rowsInIt;
      digests[size - 1] ^= digest;
      return;
    }
    if (size == ranges.length) {
      ranges = java.util.Arrays.copyOf(ranges, size * 2);
      rows = java.util.Arrays.copyOf(rows, size * 2);
      digests = java.util.Arrays.copyOf(digests, size * 2);
    }
    ranges[size] = range;
    rows[size] = rowsInIt;
    digests[size] = digest;
    size++;
  }

  /** The same digests by wider ranges, if there are too many to hold several of them. */
  public RangeDigests bounded() {
    long wider = width;
    while (size > 0 && ranges[size - 1] * width / wider >= MOST) {
      wider *= 2;
    }
    return joined(wider);
  }

  /**
   * The same digests by wider ranges.
   *
   * @param wider a multiple of the width
   */
  public RangeDigests joined(long wider) {
    if (wider == width) {
      return this;
    }
    RangeDigests joined = new RangeDigests(wider);
    for (int i = 0; i < size; i++) {
      joined.add(ranges[i] / (wider / width), rows[i], digests[i]);
    }
    return joined;
  }

  public long width() {
    return width;
  }

  public int size() {
    return size;
  }

  public long range(int index) {
    return ranges[index];
  }

  public long rows(int index) {
    return rows[index];
  }

  public long digest(int index) {
    return digests[index];
  }
}
