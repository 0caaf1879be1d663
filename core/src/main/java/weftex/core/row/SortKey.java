package weftex.core.row;

import java.io.ByteArrayOutputStream;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.HexFormat;

/**
 * The place of a row in the order of its table: bytes that compare, unsigned and from the left, as
 * the server orders the keys, and are equal exactly when the server calls two keys equal.
 */
public final class SortKey implements Comparable<SortKey> {
  private final byte[] bytes;

  public SortKey(byte[] bytes) {
    this.bytes = bytes;
  }

  /** The bytes; not to be changed. */
  public byte[] bytes() {
    return bytes;
  }

  /**
   * The key of a single whole number up to 2^64-1: eight bytes with the sign bit flipped, so that
   * bytes order as numbers; what does not fit follows after eight bytes FF.
   */
  public static SortKey ofWhole(BigInteger number) {
    boolean fits = number.bitLength() < Long.SIZE;
    byte[] bytes = new byte[fits ? 8 : 16];
    put(bytes, 0, fits ? number.longValue() ^ Long.MIN_VALUE : -1);
    if (!fits) {
      put(bytes, 8, number.longValue());
    }
    return new SortKey(bytes);
  }

  /** As {@link #ofWhole(BigInteger)}, for a number that fits. */
  public static SortKey ofWhole(long number) {
    byte[] bytes = new byte[8];
    put(bytes, 0, number ^ Long.MIN_VALUE);
    return new SortKey(bytes);
  }

  /** The number that {@link #ofWhole(long)} made a key of, or -1 for another or a negative one. */
  public static long toWhole(SortKey key) {
    if (key.bytes.length != Long.BYTES) {
      return -1;
    }
    long number = ByteBuffer.wrap(key.bytes).getLong() ^ Long.MIN_VALUE;
    return Math.max(number, -1);
  }

  private static void put(byte[] bytes, int at, long number) {
    for (int i = 0; i < 8; i++) {
      bytes[at + i] = (byte) (number >>> 56 - 8 * i);
    }
  }

  @Override
  public int compareTo(SortKey other) {
    return Arrays.compareUnsigned(bytes, other.bytes);
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof SortKey key && Arrays.equals(bytes, key.bytes);
  }

  @Override
  public int hashCode() {
    // FNV-1a: numbers that follow each other, as keys do, would collide by the usual sum.
    int hash = 0x811C9DC5;
    for (byte each : bytes) {
      hash = (hash ^ (each & 0xFF)) * 0x01000193;
    }
    return hash;
  }

  @Override
  public String toString() {
    return HexFormat.of().formatHex(bytes);
  }

  /**
   * Builds a key of several parts. A part is closed by {@code 00 00} and a zero byte inside it is
   * written {@code 00 FF}, so that a shorter part orders before a longer one that begins alike;
   * NULL is a lone {@code 00}, before everything, and every other part begins with {@code 01}.
   */
  public static final class Builder {
    private final ByteArrayOutputStream out = new ByteArrayOutputStream(32);

    /** Adds a NULL part. */
    public Builder addNull() {
      out.write(0);
      return this;
    }

    /** Adds a part of bytes that already order rightly. */
    public Builder add(byte[] part) {
      out.write(1);
      for (byte b : part) {
        out.write(b);
        if (b == 0) {
          out.write(0xFF);
        }
      }
      out.write(0);
      out.write(0);
      return this;
    }

    /**
     * Adds a whole number between -2^63 and 2^64-1, in nine bytes: unsigned numbers above the
     * signed range follow the signed ones.
     */
    public Builder add(BigInteger number) {
      out.write(1);
      out.write(number.signum() < 0 ? 0 : 1);
      long low = number.longValue();
      for (int shift = 56; shift >= 0; shift -= 8) {
        out.write((int) (low >>> shift));
      }
      return this;
    }

    public SortKey build() {
      return new SortKey(out.toByteArray());
    }
  }
}
