package weftex.cli.page;

/** Makes signs visible that would act instead of being seen. */
public final class Visible {
  private static final int CONTROL_PICTURES = 0x2400;

  private Visible() {}

  /**
   * A text in which control characters are pictures of themselves, and marks that turn the
   * direction of writing are named. Line feeds and tabs stay.
   */
  public static String text(String text) {
    if (isPlain(text)) {
      return text;
    }
    StringBuilder visible = new StringBuilder(text.length());
    text.codePoints()
        .forEach(
            c -> {
              if (c < ' ' && c != '\n' && c != '\t') {
                visible.appendCodePoint(CONTROL_PICTURES + c);
              } else if (c == 0x7F) {
                visible.appendCodePoint(0x2421);
              } else if (turnsDirection(c) || c >= 0x80 && c < 0xA0) {
                visible.append(String.format("[U+%04X]", c));
              } else {
                visible.appendCodePoint(c);
              }
            });
    return visible.toString();
  }

  /** The same on one line: line feeds are signs, and tabs are blanks. */
  public static String line(String text) {
    return text(text).replace("\n", "⏎").replace("\t", "    ");
  }

  /** Whether it is printable ASCII, as most texts are. */
  private static boolean isPlain(String text) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c < ' ' && c != '\n' && c != '\t' || c >= 0x7F) {
        return false;
      }
    }
    return true;
  }

  private static boolean turnsDirection(int c) {
    return c == 0x200E
        || c == 0x200F
        || c == 0x061C
        || c >= 0x202A && c <= 0x202E
        || c >= 0x2066 && c <= 0x2069;
  }
}
