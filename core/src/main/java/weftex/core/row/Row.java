package weftex.core.row;

import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.List;

/**
 * A row: its place in the order of its table, and its values in packed form (see {@link
 * RowPacking}). Comparing two rows compares bytes; values are unpacked only when somebody asks for
 * them.
 */
public final class Row {
  /** The row that a side does not have. */
  public static final Row ABSENT = new Row(new SortKey(new byte[0]), new byte[0], 0, 0);

  private final SortKey key;
  private final byte[] packed;
  private final int offset;
  private final int length;

  /**
   * @param key its place
   * @param packed an array that holds the packed values, not to be changed afterwards
   * @param offset where they begin
   * @param length how many bytes they take
   */
  public Row(SortKey key, byte[] packed, int offset, int length) {
    this.key = key;
    this.packed = packed;
    this.offset = offset;
    this.length = length;
  }

  /** A row of some values. */
  public static Row of(SortKey key, List<Value> values) {
    byte[] packed = RowPacking.pack(values);
    return new Row(key, packed, 0, packed.length);
  }

  public SortKey key() {
    return key;
  }

  public boolean isPresent() {
    return this != ABSENT;
  }

  /** The size of the packed values in bytes. */
  public int length() {
    return length;
  }

  /** The packed values where they are, to be read only; nothing is copied. */
  public ByteBuffer shared() {
    return ByteBuffer.wrap(packed, offset, length).asReadOnlyBuffer();
  }

  /** Reads the packed values one after the other. */
  public RowPacking.Cursor cursor() {
    return new RowPacking.Cursor(packed, offset);
  }

  /** Looks at a stretch of bytes. */
  public interface ByteTest {
    boolean test(byte[] bytes, int from, int to);
  }

  /** Whether the packed values pass a test; texts stand in them as they are. */
  public boolean holds(ByteTest test) {
    return test.test(packed, offset, offset + length);
  }

  /** Puts the packed values into a sink. */
  public void appendTo(RowPacking.Sink sink) {
    sink.putFlat(packed, offset, length);
  }

  /** Whether both rows have the same values, or are both absent. */
  public boolean sameValues(Row other) {
    return isPresent() == other.isPresent()
        && Arrays.equals(
            packed,
            offset,
            offset + length,
            other.packed,
            other.offset,
            other.offset + other.length);
  }

  /** The values, in the order of the table's columns; empty for an absent row. */
  public List<Value> values() {
    return RowPacking.unpack(packed, offset, length);
  }

  @Override
  public String toString() {
    return isPresent() ? values().toString() : "(no row)";
  }
}
