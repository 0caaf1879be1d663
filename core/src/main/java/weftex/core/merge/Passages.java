package weftex.core.merge;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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

  /**
   * The text with the chosen passages.
   *
   * @param fromSource for each open passage whether the source's stands
   */
  public Value text(List<Boolean> fromSource) {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < pieces.size(); i++) {
      Piece piece = pieces.get(i);
      text.append(i % 2 == 0 || fromSource.get(i / 2) ? piece.source() : piece.target());
    }
    return new Value.Text(text.toString().getBytes(StandardCharsets.UTF_8));
  }
}
