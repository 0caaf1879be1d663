package weftex.core.row;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The packed form of a row's values: the Avro binary encoding (Avro 1.12 specification, "Binary
 * encoding") of a record whose every field is the union
 *
 * <pre>null | string | bytes | long | record Exact {string digits} | record Decimal {string digits}
 * </pre>
 *
 * so that a packed row is written into an Avro file as it is. Whole numbers outside 64 signed bits
 * are {@code Exact}. The encoding has one form for each value, so equal bytes mean equal values.
 */
public final class RowPacking {
  public static final int NULL = 0;
  public static final int TEXT = 1;
  public static final int BINARY = 2;
  public static final int WHOLE = 3;
  public static final int EXACT = 4;
  public static final int DECIMAL = 5;

  private RowPacking() {}

  /**
   * Packs values; a {@link Value.Fresh} has no packed form and throws {@link
   * IllegalArgumentException}.
   */
  public static byte[] pack(List<Value> values) {
    Sink sink = new Sink(64);
    for (Value value : values) {
      put(sink, value);
    }
    return sink.toByteArray();
  }

  private static void put(Sink sink, Value value) {
    if (value instanceof Value.Text text) {
      sink.putBytes(TEXT, text.utf8());
    } else if (value instanceof Value.Binary binary) {
      sink.putBytes(BINARY, binary.bytes());
    } else if (value instanceof Value.Whole whole) {
      sink.putWhole(whole.number());
    } else if (value instanceof Value.Decimal decimal) {
      sink.putDecimal(decimal.digits());
    } else if (value.isNull()) {
      sink.putNull();
    } else {
      throw new IllegalArgumentException(
          "a number that is not known yet can't be packed: " + value);
    }
  }

  static List<Value> unpack(byte[] packed, int offset, int length) {
    List<Value> values = new ArrayList<>();
    Cursor cursor = new Cursor(packed, offset);
    while (cursor.position < offset + length) {
      values.add(cursor.next());
    }
    return values;
  }

  /**
   * The position after {@code count} packed values.
   *
   * @param packed the bytes
   * @param from where the first value begins
   */
  public static int skip(byte[] packed, int from, int count) {
    Cursor cursor = new Cursor(packed, from);
    for (int i = 0; i < count; i++) {
      cursor.skip();
    }
    return cursor.position;
  }

  /** Reads packed values one after the other. */
  public static final class Cursor {
    private final byte[] packed;
    private int position;

    public Cursor(byte[] packed, int position) {
      this.packed = packed;
      this.position = position;
    }

    public int position() {
      return position;
    }

    /** Reads a plain length-prefixed string of bytes, as Avro writes a {@code bytes} field. */
    public byte[] bytes() {
      int length = (int) varint();
      position += length;
      return Arrays.copyOfRange(packed, position - length, position);
    }

    /** Reads a plain number, as Avro writes a {@code long} field. */
    public long number() {
      return varint();
    }

    /** Reads a value that is known to be of the branch {@link #WHOLE}. */
    public long whole() {
      position++;
      return varint();
    }

    /** Reads the next value. */
    public Value next() {
      int branch = (int) varint();
      return switch (branch) {
        case NULL -> Value.NULL;
        case TEXT -> new Value.Text(bytes());
        case BINARY -> new Value.Binary(bytes());
        case WHOLE -> Value.whole(varint());
        case EXACT -> new Value.Whole(new BigInteger(ascii()));
        case DECIMAL -> new Value.Decimal(ascii());
        default -> throw new IllegalArgumentException("not a packed row: union branch " + branch);
      };
    }

    void skip() {
      int branch = (int) varint();
      if (branch == WHOLE) {
        varint();
      } else if (branch != NULL) {
        long length = varint();
        position += (int) length;
      }
    }

    private String ascii() {
      return new String(bytes(), StandardCharsets.US_ASCII);
    }

    private long varint() {
      byte[] from = packed;
      int at = position;
      byte b = from[at++];
      long raw = b & 0x7F;
      for (int shift = 7; b < 0; shift += 7) {
        b = from[at++];
        raw |= (long) (b & 0x7F) << shift;
      }
      position = at;
      return raw >>> 1 ^ -(raw & 1);
    }
  }

  /** Collects packed values. */
  public static final class Sink {
    private byte[] bytes;
    private int size;

    /**
     * @param capacity bytes to begin with
     */
    public Sink(int capacity) {
      bytes = new byte[capacity];
    }

    public void putNull() {
      room(1);
      bytes[size++] = NULL;
    }

    /** Puts a length-prefixed value; {@code branch} is {@link #TEXT} or {@link #BINARY}. */
    public void putBytes(int branch, byte[] value) {
      room(value.length + 11);
      bytes[size++] = (byte) (branch << 1);
      putRaw(value);
    }

    /** Puts a plain length-prefixed string of bytes, as Avro writes a {@code bytes} field. */
    public void putRaw(byte[] value) {
      room(value.length + 10);
      varint(value.length);
      putFlat(value, 0, value.length);
    }

    /** Puts a plain number, as Avro writes a {@code long} field. */
    public void putLong(long value) {
      room(10);
      varint(value);
    }

    /** Puts bytes as they are. */
    public void putFlat(byte[] value, int offset, int length) {
      room(length);
      System.arraycopy(value, offset, bytes, size, length);
      size += length;
    }

    public void putWhole(long value) {
      room(11);
      bytes[size++] = WHOLE << 1;
      varint(value);
    }

    public void putWhole(BigInteger value) {
      if (value.bitLength() < 64) {
        putWhole(value.longValue());
      } else {
        putBytes(EXACT, value.toString().getBytes(StandardCharsets.US_ASCII));
      }
    }

    public void putDecimal(String digits) {
      putBytes(DECIMAL, digits.getBytes(StandardCharsets.US_ASCII));
    }

    public int size() {
      return size;
    }

    /** Forgets what was put, and keeps the room. */
    public void clear() {
      size = 0;
    }

    /**
     * The array that the values are in, up to {@link #size}; what is in there does not change any
     * more.
     */
    public byte[] shared() {
      return bytes;
    }

    public byte[] toByteArray() {
      return Arrays.copyOf(bytes, size);
    }

    private void varint(long value) {
      long raw = value << 1 ^ value >> 63;
      byte[] to = bytes;
      int at = size;
      while ((raw & ~0x7FL) != 0) {
        to[at++] = (byte) (raw | 0x80);
        raw >>>= 7;
      }
      to[at++] = (byte) raw;
      size = at;
    }

    private void room(int more) {
      if (bytes.length - size < more) {
        bytes = Arrays.copyOf(bytes, Math.max(size + more, (int) Math.min(2L * size, 1 << 24)));
      }
    }
  }
}
