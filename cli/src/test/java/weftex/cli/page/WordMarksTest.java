package weftex.cli.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WordMarksTest {
  private static String shown(List<WordMarks.Piece> pieces) {
    return pieces.stream()
        .map(
            piece ->
                piece.isGap()
                    ? "…" + piece.leftOut()
                    : piece.changed() ? "[" + piece.text() + "]" : piece.text())
        .collect(Collectors.joining());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "Four islands, one deck | Four islands, all winter | Four islands, [one deck] | Four islands, [all winter]",
        "<p>Every route.</p> | <p>Every route, also at night.</p> | <p>Every route.</p> | <p>Every route[, also at night].</p>",
        "same | same | same | same",
        "a b c | a c | a [b ]c | a c",
        "Fähre 🏮 hier | Fähre 🏮 dort | Fähre 🏮 [hier] | Fähre 🏮 [dort]",
      })
  void wordsThatDiffer(String before, String after, String left, String right) {
    WordMarks.Marked marked = WordMarks.compare(before, after);
    assertThat(shown(marked.before())).isEqualTo(left);
    assertThat(shown(marked.after())).isEqualTo(right);
  }

  @Test
  void whatIsAlikeFarFromADifferenceIsLeftOut() {
    String words =
        IntStream.range(0, 100).mapToObj(i -> "word" + i).collect(Collectors.joining(" "));
    WordMarks.Marked marked = WordMarks.compare(words + " old", words + " new");
    assertThat(shown(marked.after()))
        .startsWith("…")
        .contains("word99 [new]", "word96 ")
        .doesNotContain("word95");
    int hidden = marked.after().stream().mapToInt(WordMarks.Piece::leftOut).sum();
    int seen = marked.after().stream().mapToInt(piece -> piece.text().length()).sum();
    assertThat(hidden + seen).isEqualTo((words + " new").length());
  }

  @Test
  void aLongTextAloneIsCut() {
    List<WordMarks.Piece> pieces = WordMarks.whole("x".repeat(699) + "🏮" + "y".repeat(300));
    assertThat(pieces).hasSize(2);
    assertThat(pieces.get(0).text()).hasSize(699);
    assertThat(pieces.get(1).leftOut()).isEqualTo(302);
  }

  @Test
  void textsOfManyWordsAreNotComparedWordByWord() {
    String many = "a ".repeat(10_000);
    WordMarks.Marked marked = WordMarks.compare(many, many + "b");
    assertThat(marked.after()).noneMatch(WordMarks.Piece::changed);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "a\u0007b|a\u2407b",
        "\u202Eab|[U+202E]ab",
        "a\u007F|a\u2421",
        "a\u0085b|a[U+0085]b",
        "a\tb|a\tb",
        "Fähre 🏮|Fähre 🏮"
      })
  void signsThatWouldActAreSeen(String text, String visible) {
    assertThat(Visible.text(text)).isEqualTo(visible);
  }
}
