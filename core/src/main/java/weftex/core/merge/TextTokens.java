package weftex.core.merge;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.eclipse.jgit.diff.Sequence;
import org.eclipse.jgit.diff.SequenceComparator;

/** A text cut into pieces. */
final class TextTokens extends Sequence {
  /** Ends of lines and of elements that stand on their own, and block comments. */
  static final Pattern BLOCK =
      Pattern.compile(
          "\\R|<!--|-->|(?i:</(?:p|li|ul|ol|h[1-6]|div|figure|table|tr|td|th|section|blockquote)>|<br ?/?>)");

  /**
   * Words with the marks and blanks behind them, and tags. A word is not taken apart, and what
   * touches it is changed with it: of two times, or two turns of speech, no third is made.
   */
  static final Pattern WORD = Pattern.compile("<[^<>]*>\\s*|[^\\s<]+\\s*|\\s+|<");

  static final SequenceComparator<TextTokens> COMPARATOR =
      new SequenceComparator<>() {
        @Override
        public boolean equals(TextTokens one, int i, TextTokens other, int j) {
          return one.pieces.get(i).equals(other.pieces.get(j));
        }

        @Override
        public int hash(TextTokens tokens, int i) {
          return tokens.pieces.get(i).hashCode();
        }
      };

  private final List<String> pieces;

  private TextTokens(List<String> pieces) {
    this.pieces = pieces;
  }

  /** Cuts a text into words. */
  static TextTokens words(String text) {
    return of(text, WORD);
  }

  /** Cuts a text without losing a sign: before a comment or word, and after what ends one. */
  static TextTokens of(String text, Pattern by) {
    List<String> pieces = new ArrayList<>();
    int from = 0;
    Matcher sign = by.matcher(text);
    while (sign.find()) {
      boolean opens = by == WORD || sign.group().equals("<!--");
      for (int cut : opens ? new int[] {sign.start(), sign.end()} : new int[] {sign.end()}) {
        boolean inOpening = by == BLOCK && opens && cut == sign.end();
        if (cut > from && !inOpening) {
          pieces.add(text.substring(from, cut));
          from = cut;
        }
      }
    }
    if (from < text.length()) {
      pieces.add(text.substring(from));
    }
    return new TextTokens(pieces);
  }

  String text(int from, int to) {
    return String.join("", pieces.subList(from, to));
  }

  @Override
  public int size() {
    return pieces.size();
  }
}
