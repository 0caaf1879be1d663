package weftex.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.row.Value;

/** Texts that are put together of two copies' passages. */
class PassagesTest {
  private static String text(String source, String target, Passages.Side side) {
    Passages passages = Passages.between(Value.text(source), Value.text(target)).orElseThrow();
    return passages.text(Collections.nCopies(passages.open(), side)).display();
  }

  @ParameterizedTest
  @CsvSource(
      textBlock =
          """
          The quay is open. Dogs welcome.|The quay is open. No bicycles.|The quay is open. Dogs welcome. No bicycles.
          <p>Quay</p><p>Dogs</p>|<p>Quay</p><p>Bicycles</p>|<p>Quay</p><p>Dogs</p><p>Bicycles</p>
          <p>The quay has dogs</p>|<p>The quay has bicycles</p>|<p>The quay has dogs bicycles</p>
          <p>See <b>dogs</b> here</p>|<p>See <b>goats</b> here</p>|<p>See <b>dogs goats</b> here</p>
          <ul> <li>a</li> <li class="x"><b>b</b></li></ul>|<ul> <li>a</li> <li class="x"><b>c</b></li></ul>|<ul> <li>a</li> <li class="x"><b>b</b></li> <li class="x"><b>c</b></li></ul>
          The quay is open.|The quay is open. No bicycles.|The quay is open. No bicycles.
          """,
      delimiter = '|')
  void bothSidesHaveTheirWordsTheSourcesFirst(String source, String target, String both) {
    assertThat(text(source, target, Passages.Side.BOTH)).isEqualTo(both);
    assertThat(text(source, target, Passages.Side.SOURCE)).isEqualTo(source);
    assertThat(text(source, target, Passages.Side.TARGET)).isEqualTo(target);
  }

  @Test
  void whatBothAppendedOnLinesOfTheirOwnStaysOnLinesOfItsOwn() {
    assertThat(text("Quay\n\nDogs\nwelcome", "Quay\n\nNo\nbicycles", Passages.Side.BOTH))
        .isEqualTo("Quay\n\nDogs\nwelcome\nNo\nbicycles");
  }

  @Test
  void aBlockOfTheEditorIsFollowedByOneOfItsKind() {
    String block = "<!-- wp:paragraph {\"a\":1} -->\n<p>%s</p>\n<!-- /wp:paragraph -->";
    String quay = String.format(block, "Quay") + "\n\n";
    assertThat(
            text(
                quay + String.format(block, "Dogs welcome"),
                quay + String.format(block, "Bicycles not"),
                Passages.Side.BOTH))
        .isEqualTo(
            quay
                + String.format(block, "Dogs welcome")
                + "\n\n"
                + String.format(block, "Bicycles not"));
  }

  @Test
  void aPassageThatOneSideAloneHasHasNoTwo() {
    Passages passages =
        Passages.between(Value.text("Quay: dogs welcome"), Value.text("Quay:")).orElseThrow();
    assertThat(passages.pieces()).noneMatch(Passages.Piece::hasBoth);
    assertThat(passages.text(List.of(Passages.Side.BOTH)).display())
        .isEqualTo("Quay: dogs welcome");
  }
}
