package weftex.core.merge;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What parts one side's words from the other's where both shall stand: where they fill a block of
 * markup (a paragraph, an item of a list, a block between two comments), that block ends and
 * another of its kind begins.
 */
final class BetweenBlocks {
  private static final Pattern OPENING =
      Pattern.compile(
          "(?:<!--\\s*(?<comment>[^\\s/][^\\s>]*)(?:(?!-->).)*?(?<!/)-->|<(?<tag>[A-Za-z][A-Za-z0-9]*)(?:\\s[^<>]*)?(?<!/)>)\\s*\\z",
          Pattern.DOTALL);
  private static final Set<String> BLOCKS =
      Set.of(
          "p",
          "li",
          "div",
          "h1",
          "h2",
          "h3",
          "h4",
          "h5",
          "h6",
          "blockquote",
          "pre",
          "section",
          "article",
          "figure",
          "dt",
          "dd",
          "tr");

  private BetweenBlocks() {}

  private record Opening(String name, boolean comment, int from) {
    boolean isBlock() {
      return comment || BLOCKS.contains(name.toLowerCase(java.util.Locale.ROOT));
    }

    Pattern end() {
      String quoted = Pattern.quote(name);
      return Pattern.compile(
          comment ? "\\s*<!--\\s*/" + quoted + "\\s*-->" : "\\s*</" + quoted + "\\s*>");
    }
  }

  /**
   * The markup between both.
   *
   * @param before the text up to the words
   * @param after the text behind them
   * @return empty if the words do not fill a block
   */
  static String of(String before, String after) {
    List<Opening> openings = openings(before);
    int at = 0;
    int end = 0;
    int from = -1;
    for (Opening opening : openings) {
      Matcher closing = opening.end().matcher(after).region(at, after.length());
      if (!closing.lookingAt()) {
        break;
      }
      at = closing.end();
      if (opening.isBlock()) {
        end = at;
        from = opening.from();
      }
    }
    if (from < 0) {
      return "";
    }
    int gap = from;
    while (gap > 0 && Character.isWhitespace(before.charAt(gap - 1))) {
      gap--;
    }
    return after.substring(0, end) + before.substring(gap, from) + before.substring(from);
  }

  /** The markup that a text ends in, the innermost first. */
  private static List<Opening> openings(String text) {
    List<Opening> openings = new ArrayList<>();
    int to = text.length();
    while (true) {
      int start = Math.max(text.lastIndexOf('<', to - 1), 0);
      Matcher opening = OPENING.matcher(text).region(start, to);
      if (to == 0 || !opening.lookingAt()) {
        return openings;
      }
      boolean comment = opening.group("comment") != null;
      openings.add(
          new Opening(comment ? opening.group("comment") : opening.group("tag"), comment, start));
      to = start;
    }
  }
}
