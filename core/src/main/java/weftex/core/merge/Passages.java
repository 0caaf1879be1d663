package weftex.core.merge;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import org.eclipse.jgit.diff.Edit;
import org.eclipse.jgit.diff.EditList;
import org.eclipse.jgit.diff.HistogramDiff;
import weftex.core.row.Value;
import weftex.core.value.Structure;

/**
 * The passages that stay open when two merged texts differ only where both copies changed the same
 * words: everything else is common to both, so that one text can be put together of either side's
 * passages. Differences are found word by word (JGit's histogram diff); those with hardly anything
 * between them are one passage.
 *
 * @param pieces in the order of the text; the first is common, then open and common take turns
 */
public record Passages(List<Piece> pieces) {
  /** Fewer words between two differences do not part them. */
  private static final int FEWEST_BETWEEN = 3;

  /** Longer texts are decided as a whole. */
  private static final int LONGEST = 1 << 20;

  public Passages {
    pieces = List.copyOf(pieces);
  }

  /**
   * A piece of the text.
   *
   * @param source as the source has it, or both
   * @param target as the target has it; the same for a common piece
   */
  public record Piece(String source, String target) {
    /** Whether it must be decided. */
    public boolean isOpen() {
      return !source.equals(target);
    }

    /** Whether each side has words of its own, so that both can stand. */
    public boolean hasBoth() {
      Words words = Words.of(this);
      return !words.source().isBlank() && !words.target().isBlank();
    }
  }

  /**
   * What both sides say alike at the ends of a passage but for the space behind it, and what each
   * says itself.
   */
  private record Words(String first, String source, String target, String last) {
    private static final Pattern WORD = Pattern.compile("\\s*\\S+\\s*");

    static Words of(Piece piece) {
      List<String> one = words(piece.source());
      List<String> other = words(piece.target());
      int most = Math.min(one.size(), other.size());
      int first = 0;
      while (first < most && one.get(first).strip().equals(other.get(first).strip())) {
        first++;
      }
      int last = 0;
      while (last < most - first
          && one.get(one.size() - 1 - last)
              .strip()
              .equals(other.get(other.size() - 1 - last).strip())) {
        last++;
      }
      List<String> longer = one.size() > other.size() ? one : other;
      return new Words(
          String.join("", longer.subList(0, first)),
          String.join("", one.subList(first, one.size() - last)),
          String.join("", other.subList(first, other.size() - last)),
          String.join("", longer.subList(longer.size() - last, longer.size())));
    }

    private static List<String> words(String text) {
      return WORD.matcher(text).results().map(MatchResult::group).toList();
    }

    /** What parts the words of one side from the other's, where neither brings it along. */
    String between() {
      char end = source.charAt(source.length() - 1);
      char start = target.charAt(0);
      boolean parted =
          Character.isWhitespace(end)
              || Character.isWhitespace(start)
              || end == '>' && start == '<';
      return parted ? "" : source.indexOf('\n') >= 0 || target.indexOf('\n') >= 0 ? "\n" : " ";
    }
  }

  /**
   * The passages of two texts; empty if they are not running text, since then only the whole value
   * can be decided.
   *
   * @param ifSource the merged text if the source wins
   * @param ifTarget the merged text if the target does
   */
  public static Optional<Passages> between(Value ifSource, Value ifTarget) {
    if (!(ifSource instanceof Value.Text one) || !(ifTarget instanceof Value.Text other)) {
      return Optional.empty();
    }
    boolean running =
        one.isWellFormed()
            && other.isWellFormed()
            && one.utf8().length <= LONGEST
            && other.utf8().length <= LONGEST
            && isRunning(one.utf8())
            && isRunning(other.utf8());
    return running ? Optional.of(of(one.display(), other.display())) : Optional.empty();
  }

  private static boolean isRunning(byte[] text) {
    return Structure.looksLike(text).isEmpty() && Structure.malformed(text).isEmpty();
  }

  private static Passages of(String source, String target) {
    TextTokens one = TextTokens.words(source);
    TextTokens other = TextTokens.words(target);
    EditList edits = new HistogramDiff().diff(TextTokens.COMPARATOR, one, other);
    List<Piece> pieces = new ArrayList<>();
    int atOne = 0;
    int atOther = 0;
    int i = 0;
    while (i < edits.size()) {
      Edit first = edits.get(i);
      Edit last = first;
      while (i + 1 < edits.size()
          && edits.get(i + 1).getBeginA() - last.getEndA() < FEWEST_BETWEEN) {
        last = edits.get(++i);
      }
      i++;
      String common = one.text(atOne, first.getBeginA());
      pieces.add(new Piece(common, common));
      pieces.add(
          new Piece(
              one.text(first.getBeginA(), last.getEndA()),
              other.text(first.getBeginB(), last.getEndB())));
      atOne = last.getEndA();
      atOther = last.getEndB();
    }
    String rest = other.text(atOther, other.size());
    pieces.add(new Piece(rest, rest));
    return new Passages(pieces);
  }

  /** How many passages are open. */
  public int open() {
    return pieces.size() / 2;
  }

  /** Whose words stand in a passage. */
  public enum Side {
    SOURCE,
    TARGET,
    /** The source's, and then the target's. */
    BOTH
  }

  /**
   * The text with the chosen passages.
   *
   * @param sides for each open passage whose words stand
   */
  public Value text(List<Side> sides) {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < pieces.size(); i++) {
      Piece piece = pieces.get(i);
      switch (i % 2 == 0 ? Side.SOURCE : sides.get(i / 2)) {
        case SOURCE -> text.append(piece.source());
        case TARGET -> text.append(piece.target());
        case BOTH -> text.append(both(i));
      }
    }
    return new Value.Text(text.toString().getBytes(StandardCharsets.UTF_8));
  }

  private String both(int i) {
    Words words = Words.of(pieces.get(i));
    String between = "";
    if (pieces.get(i).hasBoth()) {
      String blocks =
          BetweenBlocks.of(
              pieces.get(i - 1).source() + words.first(),
              words.last() + pieces.get(i + 1).source());
      between = blocks.isEmpty() ? words.between() : blocks;
    }
    return words.first() + words.source() + between + words.target() + words.last();
  }
}
