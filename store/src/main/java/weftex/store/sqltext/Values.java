package weftex.store.sqltext;

/** The values of an INSERT. */
final class Values {
  private Values() {}

  /** Whether a word outside of quotes is a value. */
  interface Words {
    boolean isValue(String text, int from, int to);
  }

  /** Whether there is nothing but values from a place on. */
  static boolean isPlain(String text, int from, boolean backslash, Words words) {
    int word = -1;
    for (int i = from; i <= text.length(); i++) {
      char c = i < text.length() ? text.charAt(i) : ' ';
      if (c == '_' || c == '.' && word >= 0 || Character.isLetterOrDigit(c)) {
        word = word < 0 ? i : word;
        continue;
      }
      if (word >= 0 && !isDigits(text, word, i) && !words.isValue(text, word, i)) {
        return false;
      }
      word = -1;
      if (c == '\'' || c == '"') {
        i = closing(text, i, c, backslash);
        if (i < 0) {
          return false;
        }
      } else if (c > ' ' && "(),-+.".indexOf(c) < 0) {
        return false;
      }
    }
    return true;
  }

  private static boolean isDigits(String text, int from, int to) {
    int at = from;
    while (at < to
        && (text.charAt(at) == '.' || text.charAt(at) >= '0' && text.charAt(at) <= '9')) {
      at++;
    }
    return at == to;
  }

  private static int closing(String text, int open, char mark, boolean backslash) {
    for (int i = open + 1; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '\\' && backslash) {
        i++;
      } else if (c == mark) {
        return i;
      }
    }
    return -1;
  }
}
