package weftex.store.copy;

import java.util.zip.CRC32C;

/**
 * CRC-32C that goes on from a given value, as servers compute it; Java's own begins at 0. Long
 * bytes are left to that and joined with the beginning, as zlib's {@code crc32_combine} does: the
 * beginning is multiplied by x^(8n) modulo the polynomial.
 */
final class SeededCrc32c {
  /** Castagnoli's polynomial, bits reversed. */
  private static final int POLYNOMIAL = 0x82F63B78;

  /** From here on joining is faster than going byte by byte. */
  private static final int LONG = 200;

  private static final int[] TABLE = new int[256];

  /** x^(2^k) modulo the polynomial. */
  private static final int[] POWERS = new int[64];

  static {
    for (int i = 0; i < TABLE.length; i++) {
      int crc = i;
      for (int bit = 0; bit < 8; bit++) {
        crc = (crc & 1) == 0 ? crc >>> 1 : crc >>> 1 ^ POLYNOMIAL;
      }
      TABLE[i] = crc;
    }
    POWERS[0] = 1 << 30;
    for (int k = 1; k < POWERS.length; k++) {
      POWERS[k] = product(POWERS[k - 1], POWERS[k - 1]);
    }
  }

  private final CRC32C fromZero = new CRC32C();

  /**
   * The check of some bytes.
   *
   * @param seed where to go on from; its lower 32 bits count
   */
  long of(long seed, byte[] bytes) {
    if (bytes.length < LONG) {
      int crc = ~(int) seed;
      for (byte b : bytes) {
        crc = TABLE[(crc ^ b) & 0xFF] ^ crc >>> 8;
      }
      return ~crc & 0xFFFFFFFFL;
    }
    fromZero.reset();
    fromZero.update(bytes, 0, bytes.length);
    return (product(shift(bytes.length), (int) seed) & 0xFFFFFFFFL) ^ fromZero.getValue();
  }

  /** x^(8n) modulo the polynomial. */
  private static int shift(int n) {
    int shift = 1 << 31;
    for (int k = 3, left = n; left != 0; k++, left >>>= 1) {
      if ((left & 1) != 0) {
        shift = product(POWERS[k], shift);
      }
    }
    return shift;
  }

  /** The product of two polynomials modulo the one; the highest bit is x^0. */
  private static int product(int a, int b) {
    int product = 0;
    int factor = b;
    for (int bit = 31; bit >= 0; bit--) {
      if ((a >>> bit & 1) != 0) {
        product ^= factor;
      }
      factor = (factor & 1) == 0 ? factor >>> 1 : factor >>> 1 ^ POLYNOMIAL;
    }
    return product;
  }
}
