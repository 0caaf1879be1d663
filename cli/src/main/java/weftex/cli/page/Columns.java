package weftex.cli.page;

import java.util.ArrayList;
import java.util.List;
import org.jline.utils.WCWidth;

/** How many columns of a terminal text takes: some characters take two of them and some none. */
public final class Columns {
  /** What a tab takes. */
  public static final int TAB = 4;

  private Columns() {}

  /** How many columns a text takes. */
  public static int width(String text) {
    return text.codePoints().map(Columns::width).sum();
  }

  /** How many columns a character takes. */
  public static int width(int c) {
    return c == '\t' ? TAB : Math.max(0, WCWidth.wcwidth(c));
  }

  /** A text cut to a width, with an ellipsis where something is missing. */
  public static String cut(String text, int width) {
    if (width(text) <= width) {
      return text;
    }
    StringBuilder cut = new StringBuilder();
    int at = 0;
    for (int c : text.codePoints().toArray()) {
      if (at + width(c) > width - 1) {
        break;
      }
      at += width(c);
      cut.appendCodePoint(c);
    }
    return width < 1 ? "" : cut + "…";
  }

  /** A text cut or filled to exactly a width. */
  public static String fit(String text, int width) {
    String cut = cut(text, width);
    return cut + " ".repeat(Math.max(0, width - width(cut)));
  }

  /**
   * Lines of at most a width, broken between words; a longer word stays whole on a line of its own.
   *
   * @return at least one line
   */
  static List<String> wrapped(String text, int width) {
    List<String> lines = new ArrayList<>();
    StringBuilder line = new StringBuilder();
    for (String word : text.split(" ", -1)) {
      if (line.length() > 0 && width(line.toString()) + 1 + width(word) > width) {
        lines.add(line.toString());
        line.setLength(0);
      }
      line.append(line.length() == 0 ? "" : " ").append(word);
    }
    lines.add(line.toString());
    return lines;
  }

  /** What the longest word of a text takes. */
  static int longestWord(String text) {
    int longest = 0;
    for (String word : text.split(" ")) {
      longest = Math.max(longest, width(word));
    }
    return longest;
  }
}
