package weftex.core.scan;

/** A set of hashes: eight bytes each, in an open-addressed table with linear probing. */
final class HashSetOfLongs {
  private long[] slots = new long[1 << 10];
  private int size;
  private boolean hasZero;

  /** Adds a hash; false if it is there already. */
  boolean add(long hash) {
    if (hash == 0) {
      boolean fresh = !hasZero;
      hasZero = true;
      return fresh;
    }
    if (size > slots.length / 2) {
      grow();
    }
    if (!put(slots, hash)) {
      return false;
    }
    size++;
    return true;
  }

  private static boolean put(long[] slots, long hash) {
    int at = (int) (hash ^ hash >>> 32) & slots.length - 1;
    while (slots[at] != 0) {
      if (slots[at] == hash) {
        return false;
      }
      at = at + 1 & slots.length - 1;
    }
    slots[at] = hash;
    return true;
  }

  private void grow() {
    long[] larger = new long[slots.length * 2];
    for (long hash : slots) {
      if (hash != 0) {
        put(larger, hash);
      }
    }
    slots = larger;
  }
}
