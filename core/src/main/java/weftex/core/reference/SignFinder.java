package weftex.core.reference;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Says in one pass which of some groups of short strings stand in a text. A table of the strings'
 * first two bytes passes over most places; at the others a trie is walked, which is kept in one
 * array, 256 next states for each state.
 */
final class SignFinder {
  private static final int BYTES = 256;

  /** The last bit stands for all groups beyond. */
  private static final int MOST_GROUPS = 63;

  /** A bit for each pair of bytes; small enough to stay close to the processor. */
  private final long[] starts = new long[BYTES * BYTES / Long.SIZE];

  private final int[] next;
  private final long[] ends;

  /** Groups with a string too short for the table: they may stand anywhere. */
  private long anywhere;

  SignFinder(List<List<String>> groups) {
    List<int[]> children = new ArrayList<>();
    List<Long> groupsEnding = new ArrayList<>();
    newState(children, groupsEnding);
    for (int group = 0; group < groups.size(); group++) {
      for (String string : groups.get(group)) {
        byte[] bytes = string.getBytes(StandardCharsets.UTF_8);
        if (bytes.length < 2) {
          anywhere |= bit(group);
        } else {
          enter(bytes, bit(group), children, groupsEnding);
        }
      }
    }
    next = new int[children.size() * BYTES];
    ends = new long[children.size()];
    for (int state = 0; state < children.size(); state++) {
      System.arraycopy(children.get(state), 0, next, state * BYTES, BYTES);
      ends[state] = groupsEnding.get(state);
    }
  }

  /** The bit of a group in what {@link #in} returns. */
  static long bit(int group) {
    return 1L << Math.min(group, MOST_GROUPS);
  }

  private static int newState(List<int[]> children, List<Long> ends) {
    int[] row = new int[BYTES];
    Arrays.fill(row, -1);
    children.add(row);
    ends.add(0L);
    return children.size() - 1;
  }

  private void enter(byte[] string, long bit, List<int[]> children, List<Long> groupsEnding) {
    int pair = start(string, 0);
    starts[pair >>> 6] |= 1L << pair;
    int state = 0;
    for (byte b : string) {
      int[] row = children.get(state);
      if (row[b & 0xFF] < 0) {
        row[b & 0xFF] = newState(children, groupsEnding);
      }
      state = row[b & 0xFF];
    }
    groupsEnding.set(state, groupsEnding.get(state) | bit);
  }

  private static int start(byte[] bytes, int at) {
    return (bytes[at] & 0xFF) << 8 | bytes[at + 1] & 0xFF;
  }

  /**
   * The bits of the groups of which a string stands in these bytes; those with a string of less
   * than two bytes always count.
   */
  long in(byte[] bytes) {
    long[] table = starts;
    long found = anywhere;
    int pair = bytes.length == 0 ? 0 : bytes[0] & 0xFF;
    for (int i = 1; i < bytes.length; i++) {
      // The byte before and this one.
      pair = (pair & 0xFF) << 8 | bytes[i] & 0xFF;
      if ((table[pair >>> 6] & 1L << pair) != 0) {
        found |= at(bytes, i - 1);
      }
    }
    return found;
  }

  private long at(byte[] bytes, int from) {
    long found = 0;
    int state = 0;
    for (int i = from; i < bytes.length; i++) {
      state = next[state * BYTES + (bytes[i] & 0xFF)];
      if (state < 0) {
        break;
      }
      found |= ends[state];
    }
    return found;
  }
}
