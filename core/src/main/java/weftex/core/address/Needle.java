package weftex.core.address;

/**
 * Finds a short string of bytes in a long one: R. N. Horspool, "Practical fast searching in
 * strings", Software: Practice and Experience 10 (1980).
 */
public final class Needle {
  private final byte[] lower;
  private final byte[] fold = new byte[256];
  private final int[] skip = new int[256];

  /**
   * @param bytes what is looked for, in lower case if case does not matter
   * @param anyCase whether ASCII letters match in either case
   */
  public Needle(byte[] bytes, boolean anyCase) {
    this.lower = bytes.clone();
    for (int i = 0; i < 256; i++) {
      fold[i] = (byte) (anyCase && i >= 'A' && i <= 'Z' ? i + 32 : i);
      skip[i] = lower.length;
    }
    for (int i = 0; i < lower.length - 1; i++) {
      skip[lower[i] & 0xFF] = lower.length - 1 - i;
    }
    for (int i = 'A'; anyCase && i <= 'Z'; i++) {
      skip[i] = skip[i + 32];
    }
  }

  int length() {
    return lower.length;
  }

  /** The first place from {@code from} on where it stands and ends by {@code to}; -1 if none. */
  public int find(byte[] bytes, int from, int to) {
    int last = lower.length - 1;
    int at = from + last;
    byte end = lower[last];
    while (at < to) {
      int b = bytes[at] & 0xFF;
      if (fold[b] == end && matches(bytes, at - last)) {
        return at - last;
      }
      at += skip[b];
    }
    return -1;
  }

  private boolean matches(byte[] bytes, int from) {
    for (int i = 0; i < lower.length; i++) {
      if (fold[bytes[from + i] & 0xFF] != lower[i]) {
        return false;
      }
    }
    return true;
  }
}
