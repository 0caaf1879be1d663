package weftex.core.merge;

import java.util.List;
import java.util.regex.Pattern;

/**
 * Three-way merge of running text: first by lines and blocks of markup, then, where those clash, by
 * words.
 */
final class TextMerger {
  private static final int SHOWN = 60;

  private final boolean sourceWins;
  private final List<String> clashes;

  /**
   * @param sourceWins whose passage stands where both changed it
   * @param clashes takes the passages that both changed, shortened
   */
  TextMerger(boolean sourceWins, List<String> clashes) {
    this.sourceWins = sourceWins;
    this.clashes = clashes;
  }

  /** Merges; texts carry one byte a character. */
  String merge(String base, String source, String target) {
    return merge(base, source, target, TextTokens.BLOCK);
  }

  private String merge(String base, String source, String target, Pattern by) {
    TextTokens b = TextTokens.of(base, by);
    TextTokens s = TextTokens.of(source, by);
    TextTokens t = TextTokens.of(target, by);
    List<TextTokens> sides = List.of(b, s, t);
    StringBuilder merged = new StringBuilder();
    Chunks.merge(
        TextTokens.COMPARATOR,
        b,
        s,
        t,
        new Chunks.Sink() {
          @Override
          public void agreed(int side, Chunks.Stretch stretch) {
            merged.append(text(sides.get(side), stretch));
          }

          @Override
          public void clash(Chunks.Stretch common, Chunks.Stretch ours, Chunks.Stretch theirs) {
            merged.append(
                TextMerger.this.clash(text(b, common), text(s, ours), text(t, theirs), by));
          }
        });
    return merged.toString();
  }

  private static String text(TextTokens tokens, Chunks.Stretch stretch) {
    return tokens.text(stretch.from(), stretch.to());
  }

  private String clash(String base, String source, String target, Pattern by) {
    if (by == TextTokens.BLOCK && !base.isEmpty()) {
      return merge(base, source, target, TextTokens.WORD);
    }
    String passage = (base.isBlank() ? source : base).strip();
    clashes.add(passage.length() > SHOWN ? passage.substring(0, SHOWN - 1) + "…" : passage);
    return sourceWins ? source : target;
  }
}
