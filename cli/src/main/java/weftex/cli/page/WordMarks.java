package weftex.cli.page;

import com.github.difflib.DiffUtils;
import com.github.difflib.patch.AbstractDelta;
import java.util.ArrayList;
import java.util.List;

/** Two texts side by side, word by word; long stretches that are alike are left out. */
public final class WordMarks {
  /** Words around a difference that are shown. */
  private static final int AROUND = 4;

  /** More words than these are not compared one by one, since that takes their square. */
  private static final int MOST_WORDS = 8000;

  /** Longer texts are not even split into words. */
  private static final int MOST_CHARACTERS = 40 * MOST_WORDS;

  private static final int LONGEST = 700;

  private WordMarks() {}

  /**
   * A piece of a text.
   *
   * @param changed whether the other text lacks it
   * @param leftOut how many characters stand here that are not shown; 0 for a piece that is shown
   */
  public record Piece(String text, boolean changed, int leftOut) {
    /** Whether something is left out here. */
    public boolean isGap() {
      return leftOut > 0;
    }
  }

  /** Both texts in pieces. */
  public record Marked(List<Piece> before, List<Piece> after) {}

  /** Compares two texts; of long stretches that are alike only the ends are kept. */
  public static Marked compare(String before, String after) {
    return compare(before, after, AROUND);
  }

  /** Compares two texts and keeps all of both. */
  public static Marked compareWhole(String before, String after) {
    return compare(before, after, Integer.MAX_VALUE / 8);
  }

  private static Marked compare(String before, String after, int around) {
    if (Math.max(before.length(), after.length()) > MOST_CHARACTERS) {
      return new Marked(whole(before), whole(after));
    }
    List<String> one = words(before);
    List<String> other = words(after);
    if (one.size() > MOST_WORDS || other.size() > MOST_WORDS) {
      return new Marked(whole(before), whole(after));
    }
    List<Piece> left = new ArrayList<>();
    List<Piece> right = new ArrayList<>();
    int atLeft = 0;
    int atRight = 0;
    for (AbstractDelta<String> delta : differences(one, other)) {
      int fromLeft = delta.getSource().getPosition();
      int fromRight = delta.getTarget().getPosition();
      alike(one.subList(atLeft, fromLeft), atLeft == 0, false, around, left);
      alike(other.subList(atRight, fromRight), atRight == 0, false, around, right);
      int endLeft = fromLeft + delta.getSource().size();
      int endRight = fromRight + delta.getTarget().size();
      changed(one.subList(fromLeft, endLeft), left);
      changed(other.subList(fromRight, endRight), right);
      atLeft = fromLeft + delta.getSource().size();
      atRight = fromRight + delta.getTarget().size();
    }
    alike(one.subList(atLeft, one.size()), atLeft == 0, true, around, left);
    alike(other.subList(atRight, other.size()), atRight == 0, true, around, right);
    return new Marked(left, right);
  }

  /** The blank behind a word does not make it another word, unless nothing else differs. */
  private static List<AbstractDelta<String>> differences(List<String> one, List<String> other) {
    List<AbstractDelta<String>> deltas =
        DiffUtils.diff(
                one.stream().map(String::stripTrailing).toList(),
                other.stream().map(String::stripTrailing).toList())
            .getDeltas();
    return deltas.isEmpty() ? DiffUtils.diff(one, other).getDeltas() : deltas;
  }

  /** A single text; a long one is cut. */
  public static List<Piece> whole(String text) {
    if (text.length() <= LONGEST) {
      return List.of(new Piece(text, false, 0));
    }
    int end = Character.isHighSurrogate(text.charAt(LONGEST - 1)) ? LONGEST - 1 : LONGEST;
    return List.of(
        new Piece(text.substring(0, end), false, 0), new Piece("", false, text.length() - end));
  }

  /** Words with the blanks behind them; markup and signs at their ends stand alone. */
  private static List<String> words(String text) {
    return text.isEmpty()
        ? List.of()
        : List.of(text.split("(?<=\\s)(?=\\S)|(?=[<.,;:!?\"])|(?<=[>;\"])"));
  }

  private static void changed(List<String> words, List<Piece> into) {
    if (!words.isEmpty()) {
      String text = String.join("", words);
      boolean tooLong = text.length() > LONGEST * 2;
      into.add(new Piece(tooLong ? text.substring(0, LONGEST * 2) : text, true, 0));
      if (tooLong) {
        into.add(new Piece("", true, text.length() - LONGEST * 2));
      }
    }
  }

  private static void alike(
      List<String> words, boolean first, boolean last, int around, List<Piece> into) {
    int head = first ? 0 : around;
    int tail = last ? 0 : around;
    if (words.size() <= head + tail + around) {
      if (!words.isEmpty()) {
        into.add(new Piece(String.join("", words), false, 0));
      }
      return;
    }
    if (head > 0) {
      into.add(new Piece(String.join("", words.subList(0, head)), false, 0));
    }
    int gap = String.join("", words.subList(head, words.size() - tail)).length();
    into.add(new Piece("", false, gap));
    if (tail > 0) {
      into.add(
          new Piece(String.join("", words.subList(words.size() - tail, words.size())), false, 0));
    }
  }
}
