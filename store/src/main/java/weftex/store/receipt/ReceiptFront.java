package weftex.store.receipt;

import java.nio.charset.StandardCharsets;

/** The front of a receipt's lines, by which they are told without being read. */
final class ReceiptFront {

  private static final int FRONT = 80;

  private ReceiptFront() {}

  static boolean begins(byte[] line, String with) {
    for (int i = 0; i < with.length(); i++) {
      if (i >= line.length || line[i] != with.charAt(i)) {
        return false;
      }
    }
    return true;
  }

  static String front(byte[] line) {
    return new String(line, 0, Math.min(line.length, FRONT), StandardCharsets.ISO_8859_1);
  }
}
