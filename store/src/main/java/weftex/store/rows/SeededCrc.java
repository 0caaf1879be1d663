package weftex.store.rows;

import java.util.zip.CRC32;
import java.util.zip.CRC32C;
import java.util.zip.Checksum;

/**
 * A 32-bit CRC that goes on from a given value, as servers compute it; Java's own begin at 0. Long
 * bytes are left to those and joined with the beginning, as zlib's {@code crc32_combine} does: the
 * beginning is multiplied by x^(8n) modulo the polynomial. Not for use by several threads at once.
 */
final class SeededCrc {
  /** From here on joining is faster than going byte by byte. */
  private static final int LONG = 200;

  private final Polynomial polynomial;
  private final Checksum fromZero;

  private SeededCrc(Polynomial polynomial, Checksum fromZero) {
    this.polynomial = polynomial;
    this.fromZero = fromZero;
  }

  /** The CRC of Ethernet and ZIP, {@code CRC32} of a server. */
  static SeededCrc crc32() {
    return new SeededCrc(Polynomial.IEEE, new CRC32());
  }

  /** Castagnoli's CRC, {@code CRC32C} of a server. */
  static SeededCrc crc32c() {
    return new SeededCrc(Polynomial.CASTAGNOLI, new CRC32C());
  }

  /**
   * The check of some bytes.
   *
   * @param seed where to go on from; its lower 32 bits count
   */
  long of(long seed, byte[] bytes) {
    if (bytes.length < LONG) {
      int[] table = polynomial.table;
      int crc = ~(int) seed;
      for (byte b : bytes) {
        crc = table[(crc ^ b) & 0xFF] ^ crc >>> 8;
      }
      return ~crc & 0xFFFFFFFFL;
    }
    fromZero.reset();
    fromZero.update(bytes, 0, bytes.length);
    int shifted = polynomial.product(polynomial.shift(bytes.length), (int) seed);
    return (shifted & 0xFFFFFFFFL) ^ fromZero.getValue();
  }

  /** Arithmetic modulo a polynomial over two elements; the highest bit is x^0. */
  private static final class Polynomial {
    static final Polynomial IEEE = new Polynomial(0xEDB88320);
    static final Polynomial CASTAGNOLI = new Polynomial(0x82F63B78);

    private final int reversed;
    private final int[] table = new int[256];

    /** x^(2^k). */
    private final int[] powers = new int[64];

    private Polynomial(int reversed) {
      this.reversed = reversed;
      for (int i = 0; i < table.length; i++) {
        int crc = i;
        for (int bit = 0; bit < 8; bit++) {
          crc = timesX(crc);
        }
        table[i] = crc;
      }
      powers[0] = 1 << 30;
      for (int k = 1; k < powers.length; k++) {
        powers[k] = product(powers[k - 1], powers[k - 1]);
      }
    }

    private int timesX(int factor) {
      return (factor & 1) == 0 ? factor >>> 1 : factor >>> 1 ^ reversed;
    }

    /** x^(8n). */
    int shift(int n) {
      int shift = 1 << 31;
      for (int k = 3, left = n; left != 0; k++, left >>>= 1) {
        if ((left & 1) != 0) {
          shift = product(powers[k], shift);
        }
      }
      return shift;
    }

    int product(int a, int b) {
      int product = 0;
      int factor = b;
      for (int bit = 31; bit >= 0; bit--) {
        if ((a >>> bit & 1) != 0) {
          product ^= factor;
        }
        factor = timesX(factor);
      }
      return product;
    }
  }
}
