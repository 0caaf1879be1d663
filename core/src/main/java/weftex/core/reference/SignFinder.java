package weftex.core.reference;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Says in one pass which of some groups of short strings stand in a text. A table of the strings'
 * first two bytes passes over most places; at the others a trie is walked.
 */
final class SignFinder {
  private static final int BYTES = 256;

  /** The last bit stands for all groups beyond. */
  private static final int MOST_GROUPS = 63;

  private final boolean[] starts = new boolean[BYTES * BYTES];
  private final List<int[]> children = new ArrayList<>();
  private final List<Long> ends = new ArrayList<>();

  /** Groups with a string too short for the table: they may stand anywhere. */
  private long anywhere;

  SignFinder(List<List<String>> groups) {
    newState();
    for (int group = 0; group < groups.size(); group++) {
      for (String string : groups.get(group)) {
        byte[] bytes = string.getBytes(StandardCharsets.UTF_8);
        if (bytes.length < 2) {
          anywhere |= bit(group);
        } else {
          enter(bytes, bit(group));
        }
      }
    }
  }

  /** The bit of a group in what {@link #in} returns. */
  static long bit(int group) {
    return 1L << Math.min(group, MOST_GROUPS);
  }

  private int newState() {
    int[] row = new int[BYTES];
    Arrays.fill(row, -1);
    children.add(row);
    ends.add(0L);
    return children.size() - 1;
  }

  private void enter(byte[] string, long bit) {
    starts[start(string, 0)] = true;
    int state = 0;
    for (byte b : string) {
      int[] row = children.get(state);
      if (row[b & 0xFF] < 0) {
        row[b & 0xFF] = newState();
      }
      state = row[b & 0xFF];
    }
    ends.set(state, ends.get(state) | bit);
  }

  private static int start(byte[] bytes, int at) {
    return (bytes[at] & 0xFF) << 8 | bytes[at + 1] & 0xFF;
  }

  /**
   * The bits of the groups of which a string stands in these bytes; those with a string of less
   * than two bytes always count.
   */
  long in(byte[] bytes) {
    boolean[] table = starts;
    long found = anywhere;
    int pair = bytes.length == 0 ? 0 : bytes[0] & 0xFF;
    for (int i = 1; i < bytes.length; i++) {
      // The byte before and this one.
      pair = (pair & 0xFF) << 8 | bytes[i] & 0xFF;
      if (table[pair]) {
        found |= at(bytes, i - 1);
      }
    }
    return found;
  }

  private long at(byte[] bytes, int from) {
    long found = 0;
    int state = 0;
    for (int i = from; i < bytes.length; i++) {
      state = children.get(state)[bytes[i] & 0xFF];
      if (state < 0) {
        break;
      }
      found |= ends.get(state);
    }
    return found;
  }
}
