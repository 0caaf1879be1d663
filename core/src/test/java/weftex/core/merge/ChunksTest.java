package weftex.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.eclipse.jgit.diff.RawText;
import org.eclipse.jgit.diff.RawTextComparator;
import org.junit.jupiter.api.Test;

class ChunksTest {
  /** A merge, piece by piece, as lines. */
  private static final class Pieces implements Chunks.Sink {
    private final List<List<String>> sides;
    final List<String> merged = new ArrayList<>();
    final List<String> base = new ArrayList<>();
    int clashes;

    Pieces(List<String> base, List<String> source, List<String> target) {
      this.sides = List.of(base, source, target);
    }

    private List<String> of(int side, Chunks.Stretch stretch) {
      return sides.get(side).subList(stretch.from(), stretch.to());
    }

    @Override
    public void agreed(int side, Chunks.Stretch stretch, Chunks.Stretch base) {
      merged.addAll(of(side, stretch));
    }

    @Override
    public void clash(Chunks.Stretch base, Chunks.Stretch source, Chunks.Stretch target) {
      clashes++;
      merged.add(
          "<" + String.join(",", of(1, source)) + "|" + String.join(",", of(2, target)) + ">");
      this.base.addAll(of(0, base));
      assertThat(base.length()).isNotNegative();
    }
  }

  private static Pieces merge(List<String> base, List<String> source, List<String> target) {
    Pieces pieces = new Pieces(base, source, target);
    Chunks.merge(RawTextComparator.DEFAULT, text(base), text(source), text(target), pieces);
    return pieces;
  }

  private static RawText text(List<String> lines) {
    return new RawText(
        lines.stream()
            .map(line -> line + "\n")
            .reduce("", String::concat)
            .getBytes(StandardCharsets.UTF_8));
  }

  @Test
  void editsApartFromEachOtherAreBothTaken() {
    Pieces pieces =
        merge(
            List.of("a", "b", "c", "d", "e"),
            List.of("A", "b", "c", "d", "e"),
            List.of("a", "b", "c", "d", "E"));
    assertThat(pieces.merged).containsExactly("A", "b", "c", "d", "E");
    assertThat(pieces.clashes).isZero();
  }

  @Test
  void theSameEditOnBothSidesIsOne() {
    Pieces pieces = merge(List.of("a", "b"), List.of("a", "x", "b"), List.of("a", "x", "b"));
    assertThat(pieces.merged).containsExactly("a", "x", "b");
  }

  @Test
  void twoEditsOfOnePlaceClashOverWhatTheBaseHadThere() {
    Pieces pieces = merge(List.of("a", "b", "c"), List.of("a", "x", "c"), List.of("a", "y", "c"));
    assertThat(pieces.merged).containsExactly("a", "<x|y>", "c");
    assertThat(pieces.base).containsExactly("b");
  }

  @Test
  void whatBothAddedAroundAClashDoesNotCountAsTheBases() {
    Pieces pieces =
        merge(
            List.of("a", "z"), List.of("a", "p", "x", "q", "z"), List.of("a", "p", "y", "q", "z"));
    assertThat(pieces.merged).containsSubsequence("a", "p", "q", "z");
    assertThat(pieces.clashes).isEqualTo(1);
    assertThat(pieces.base).isEmpty();
  }

  /**
   * Of random sequences: an unchanged side leaves the other's, and mirrored sides mirror clashes.
   */
  @Test
  void lawsOfAMerge() {
    Random random = new Random(20261127);
    for (int round = 0; round < 3000; round++) {
      List<String> base = random(random, List.of());
      List<String> source = random(random, base);
      List<String> target = random(random, base);
      assertThat(merge(base, source, base).merged).isEqualTo(source);
      assertThat(merge(base, base, target).merged).isEqualTo(target);
      assertThat(merge(base, source, source).merged).isEqualTo(source);
      Pieces one = merge(base, source, target);
      assertThat(merge(base, target, source).clashes).isEqualTo(one.clashes);
      assertThat(one.base).hasSizeLessThanOrEqualTo(base.size());
    }
  }

  private static List<String> random(Random random, List<String> from) {
    List<String> lines = new ArrayList<>(from);
    int edits = from.isEmpty() ? random.nextInt(9) : random.nextInt(4);
    for (int i = 0; i < edits; i++) {
      String line = String.valueOf((char) ('a' + random.nextInt(6)));
      int at = random.nextInt(lines.size() + 1);
      if (at == lines.size() || random.nextBoolean()) {
        lines.add(at, line);
      } else if (random.nextBoolean()) {
        lines.set(at, line);
      } else {
        lines.remove(at);
      }
    }
    return lines;
  }
}
