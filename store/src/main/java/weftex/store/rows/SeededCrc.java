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

  private final CrcPolynomial polynomial;
  private final Checksum fromZero;

  private SeededCrc(CrcPolynomial polynomial, Checksum fromZero) {
    this.polynomial = polynomial;
    this.fromZero = fromZero;
  }

  /** The CRC of Ethernet and ZIP, {@code CRC32} of a server. */
  static SeededCrc crc32() {
    return new SeededCrc(CrcPolynomial.IEEE, new CRC32());
  }

  /** Castagnoli's CRC, {@code CRC32C} of a server. */
  static SeededCrc crc32c() {
    return new SeededCrc(CrcPolynomial.CASTAGNOLI, new CRC32C());
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
}
