package weftex.core.compare;

import java.util.Arrays;
import java.util.stream.LongStream;

/** A growing list of positions in a {@link DifferenceLog}, eight bytes each. */
public final class Positions {
  private long[] positions = new long[16];
  private int size;

  public void add(long position) {
    if (size == positions.length) {
      positions = Arrays.copyOf(positions, size * 2);
    }
    positions[size++] = position;
  }

  public LongStream stream() {
    return Arrays.stream(positions, 0, size);
  }
}
