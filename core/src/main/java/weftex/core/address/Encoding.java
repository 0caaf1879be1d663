package weftex.core.address;

import java.nio.charset.StandardCharsets;

/** How the signs of an address are written where it stands. Longer spellings come first. */
enum Encoding {
  PERCENT_TWICE(Form.PERCENT_TWICE, new String[] {"%253a"}, new String[] {"%252f"}),
  PERCENT(Form.PERCENT, new String[] {"%3a", ":"}, new String[] {"%2f"}),
  HTML(
      Form.HTML,
      new String[] {"&#58;", "&#058;", "&#x3a;", "&colon;", ":"},
      new String[] {"&#47;", "&#047;", "&#x2f;", "&sol;"}),
  JSON_THRICE(Form.JSON, new String[] {":"}, new String[] {"\\\\\\\\\\\\\\/", "\\\\\\\\/"}),
  JSON_TWICE(Form.JSON, new String[] {":"}, new String[] {"\\\\\\/", "\\\\/"}),
  JSON(Form.JSON, new String[] {":"}, new String[] {"\\/"}),
  PLAIN(Form.PLAIN, new String[] {":"}, new String[] {"/"});

  private final Form form;
  private final byte[][] colons;
  private final byte[][] slashes;

  Encoding(Form form, String[] colons, String[] slashes) {
    this.form = form;
    this.colons = bytes(colons);
    this.slashes = bytes(slashes);
  }

  private static byte[][] bytes(String[] texts) {
    byte[][] bytes = new byte[texts.length][];
    for (int i = 0; i < texts.length; i++) {
      bytes[i] = texts[i].getBytes(StandardCharsets.US_ASCII);
    }
    return bytes;
  }

  Form form() {
    return form;
  }

  /** The spelling of a slash that ends at {@code end}; empty if none does. */
  byte[] slashBefore(byte[] text, int end) {
    return before(slashes, text, end);
  }

  /** The spelling of a colon that ends at {@code end}; empty if none does. */
  byte[] colonBefore(byte[] text, int end) {
    return before(colons, text, end);
  }

  /** The spelling of a colon that begins at {@code from}; empty if none does. */
  byte[] colonAt(byte[] text, int from) {
    for (byte[] colon : colons) {
      if (isAt(text, from, colon)) {
        return colon;
      }
    }
    return new byte[0];
  }

  /** The spelling of a slash that begins at {@code from}; empty if none does. */
  byte[] slashAt(byte[] text, int from) {
    for (byte[] slash : slashes) {
      if (isAt(text, from, slash)) {
        return slash;
      }
    }
    return new byte[0];
  }

  private static byte[] before(byte[][] spellings, byte[] text, int end) {
    for (byte[] spelling : spellings) {
      if (isAt(text, end - spelling.length, spelling)) {
        return spelling;
      }
    }
    return new byte[0];
  }

  /** Whether a spelling stands somewhere; letters in either case. */
  static boolean isAt(byte[] text, int from, byte[] spelling) {
    if (from < 0 || from + spelling.length > text.length) {
      return false;
    }
    for (int i = 0; i < spelling.length; i++) {
      int b = text[from + i];
      if ((b >= 'A' && b <= 'Z' ? b + 32 : b) != spelling[i]) {
        return false;
      }
    }
    return true;
  }
}
