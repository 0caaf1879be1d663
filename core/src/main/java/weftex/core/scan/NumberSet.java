package weftex.core.scan;

import java.math.BigInteger;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * A set of row numbers: a bit for each within blocks of 65,536, since numbers of rows lie close
 * together. Numbers that do not fit into 63 bits are kept singly.
 */
final class NumberSet {
  private static final int BLOCK_BITS = 16;

  private final Map<Long, long[]> blocks = new HashMap<>();
  private final Set<BigInteger> large = new HashSet<>();
  private long lastBlock = -1;
  private long[] last = new long[0];

  void add(BigInteger number) {
    if (isLarge(number)) {
      large.add(number);
      return;
    }
    long value = number.longValue();
    long[] block = block(value >>> BLOCK_BITS, true);
    block[word(value)] |= 1L << value;
  }

  boolean contains(BigInteger number) {
    if (isLarge(number)) {
      return large.contains(number);
    }
    long value = number.longValue();
    long[] block = block(value >>> BLOCK_BITS, false);
    return block.length > 0 && (block[word(value)] & 1L << value) != 0;
  }

  private static boolean isLarge(BigInteger number) {
    return number.signum() < 0 || number.bitLength() > 62;
  }

  private static int word(long value) {
    return (int) (value & (1 << BLOCK_BITS) - 1) >>> 6;
  }

  private long[] block(long at, boolean make) {
    if (at == lastBlock && last.length > 0) {
      return last;
    }
    long[] block = blocks.get(at);
    if (block == null) {
      if (!make) {
        return new long[0];
      }
      block = new long[1 << BLOCK_BITS - 6];
      blocks.put(at, block);
    }
    lastBlock = at;
    last = block;
    return block;
  }
}
