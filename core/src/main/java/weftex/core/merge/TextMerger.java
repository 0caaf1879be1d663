package weftex.core.merge;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;

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
    List<Stretch> stretches = new ArrayList<>();
    Chunks.merge(
        TextTokens.COMPARATOR,
        b,
        s,
        t,
        new Chunks.Sink() {
          private int inTarget;

          @Override
          public void agreed(int side, Chunks.Stretch stretch, Chunks.Stretch base) {
            String text = text(sides.get(side), stretch);
            String before = text(b, base);
            int alike = Math.min(t.size(), inTarget + stretch.length());
            boolean both =
                side == 1 && !text.equals(before) && t.text(inTarget, alike).equals(text);
            stretches.add(
                new Stretch(
                    before,
                    side == 2 ? before : text,
                    side == 1 && !both ? before : text,
                    text,
                    false,
                    false));
            inTarget += side == 1 && !both ? base.length() : stretch.length();
          }

          @Override
          public void clash(Chunks.Stretch common, Chunks.Stretch ours, Chunks.Stretch theirs) {
            inTarget = theirs.to();
            stretches.add(new Stretch(text(b, common), text(s, ours), text(t, theirs)));
          }
        });
    return joined(by, stretches);
  }

  private String joined(Pattern by, List<Stretch> stretches) {
    StringBuilder merged = new StringBuilder();
    for (Stretch stretch : by == TextTokens.BLOCK ? Stretch.joined(stretches) : stretches) {
      merged.append(
          !stretch.clash()
              ? stretch.merged()
              : clash(
                  stretch.base(),
                  stretch.source(),
                  stretch.target(),
                  stretch.whole() ? TextTokens.WORD : by));
    }
    return merged.toString();
  }

  /**
   * A stretch of the three texts.
   *
   * @param merged what stands in the merged text, if nobody disputes it: one side alone changed it,
   *     or both alike
   * @param whole whether it can't be merged further inside
   */
  private record Stretch(
      String base, String source, String target, String merged, boolean clash, boolean whole) {

    Stretch(String base, String source, String target) {
      this(base, source, target, "", true, false);
    }

    boolean isChanged() {
      return clash || !merged.equals(base);
    }

    boolean endsComment() {
      return Stream.of(base, source, target).allMatch(text -> text.strip().endsWith("-->"));
    }

    /**
     * What a block comment says and what stands in the block belong together: where one of them
     * clashes and the other was changed, too, the two are one clash.
     */
    static List<Stretch> joined(List<Stretch> stretches) {
      List<Stretch> joined = new ArrayList<>();
      for (int i = 0; i < stretches.size(); i++) {
        Stretch here = stretches.get(i);
        int next = i + 1;
        while (next < stretches.size()
            && !stretches.get(next).isChanged()
            && stretches.get(next).merged().isBlank()) {
          next++;
        }
        boolean belong =
            here.isChanged()
                && here.endsComment()
                && next < stretches.size()
                && stretches.get(next).isChanged()
                && (here.clash() || stretches.get(next).clash());
        if (!belong) {
          joined.add(here);
          continue;
        }
        Stretch all = here;
        for (Stretch more : stretches.subList(i + 1, next + 1)) {
          all =
              new Stretch(
                  all.base() + more.base(),
                  all.source() + more.source(),
                  all.target() + more.target(),
                  "",
                  true,
                  true);
        }
        joined.add(all);
        i = next;
      }
      return joined;
    }
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
