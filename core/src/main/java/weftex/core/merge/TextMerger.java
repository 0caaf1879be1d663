package weftex.core.merge;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.eclipse.jgit.diff.Sequence;
import org.eclipse.jgit.diff.SequenceComparator;
import org.eclipse.jgit.merge.MergeAlgorithm;
import org.eclipse.jgit.merge.MergeChunk;
import org.eclipse.jgit.merge.MergeResult;

/**
 * Three-way merge of running text: first by lines and blocks of markup, then, where those clash, by
 * words. The engine is JGit's merge of sequences (a diff3 over histogram diffs).
 */
final class TextMerger {
  /** Ends of lines and of elements that stand on their own, and block comments. */
  private static final Pattern BLOCK =
      Pattern.compile(
          "\\R|<!--|-->|(?i:</(?:p|li|ul|ol|h[1-6]|div|figure|table|tr|td|th|section|blockquote)>|<br ?/?>)");

  private static final Pattern WORD = Pattern.compile("[A-Za-z0-9_\\x80-\\xff]+|\\s+|<[^<>]*>");

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
    return merge(base, source, target, BLOCK);
  }

  private String merge(String base, String source, String target, Pattern by) {
    Tokens b = Tokens.of(base, by);
    Tokens s = Tokens.of(source, by);
    Tokens t = Tokens.of(target, by);
    MergeResult<Tokens> result = new MergeAlgorithm().merge(Tokens.COMPARATOR, b, s, t);
    List<Tokens> sides = List.of(b, s, t);
    StringBuilder merged = new StringBuilder();
    String ours = "";
    String common = "";
    for (MergeChunk chunk : result) {
      String text = sides.get(chunk.getSequenceIndex()).text(chunk.getBegin(), chunk.getEnd());
      switch (chunk.getConflictState()) {
        case NO_CONFLICT -> merged.append(text);
        case FIRST_CONFLICTING_RANGE -> ours = text;
        case BASE_CONFLICTING_RANGE -> common = text;
        case NEXT_CONFLICTING_RANGE -> {
          merged.append(clash(common, ours, text, by));
          ours = "";
          common = "";
        }
      }
    }
    return merged.toString();
  }

  private String clash(String base, String source, String target, Pattern by) {
    if (by == BLOCK && !base.isEmpty()) {
      return merge(base, source, target, WORD);
    }
    String passage = (base.isBlank() ? source : base).strip();
    clashes.add(passage.length() > SHOWN ? passage.substring(0, SHOWN - 1) + "…" : passage);
    return sourceWins ? source : target;
  }

  /** A text cut into pieces. */
  private static final class Tokens extends Sequence {
    static final SequenceComparator<Tokens> COMPARATOR =
        new SequenceComparator<>() {
          @Override
          public boolean equals(Tokens one, int i, Tokens other, int j) {
            return one.pieces.get(i).equals(other.pieces.get(j));
          }

          @Override
          public int hash(Tokens tokens, int i) {
            return tokens.pieces.get(i).hashCode();
          }
        };

    private final List<String> pieces;

    private Tokens(List<String> pieces) {
      this.pieces = pieces;
    }

    /** Cuts a text without losing a sign: before a comment or word, and after what ends one. */
    static Tokens of(String text, Pattern by) {
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
      return new Tokens(pieces);
    }

    String text(int from, int to) {
      return String.join("", pieces.subList(from, to));
    }

    @Override
    public int size() {
      return pieces.size();
    }
  }
}
