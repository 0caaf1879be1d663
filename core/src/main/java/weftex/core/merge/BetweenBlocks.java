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
  static final Set<String> BLOCKS =
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

  /**
   * The markup between both.
   *
   * @param before the text up to the words
   * @param after the text behind them
   * @return empty if the words do not fill a block
   */
  static String of(String before, String after) {
    List<BlockOpening> openings = openings(before);
    int at = 0;
    int end = 0;
    int from = -1;
    for (BlockOpening opening : openings) {
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
  private static List<BlockOpening> openings(String text) {
    List<BlockOpening> openings = new ArrayList<>();
    int to = text.length();
    while (true) {
      int start = Math.max(text.lastIndexOf('<', to - 1), 0);
      Matcher opening = OPENING.matcher(text).region(start, to);
      if (to == 0 || !opening.lookingAt()) {
        return openings;
      }
      boolean comment = opening.group("comment") != null;
      openings.add(
          new BlockOpening(
              comment ? opening.group("comment") : opening.group("tag"), comment, start));
      to = start;
    }
  }
}
