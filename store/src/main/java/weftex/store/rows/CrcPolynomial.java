package weftex.store.rows;

/** Arithmetic modulo a polynomial over two elements; the highest bit is x^0. */
final class CrcPolynomial {
  static final CrcPolynomial IEEE = new CrcPolynomial(0xEDB88320);
  static final CrcPolynomial CASTAGNOLI = new CrcPolynomial(0x82F63B78);

  private final int reversed;
  final int[] table = new int[256];

  /** x^(2^k). */
  private final int[] powers = new int[64];

  private CrcPolynomial(int reversed) {
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
