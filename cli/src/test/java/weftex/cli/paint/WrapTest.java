package weftex.cli.paint;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.cli.page.Columns;

class WrapTest {
  private static List<String> wrapped(String text, int width) {
    return Wrap.lines(List.of(new Line.Span(text, Style.PLAIN)), width).stream()
        .map(line -> new Line(line, java.util.Optional.empty()).text())
        .toList();
  }

  @ParameterizedTest(name = "{0} at {1}")
  @CsvSource(
      delimiter = '|',
      value = {
        "The boat leaves | 8 | The boat~leaves",
        "a/b | 80 | a/b",
        "Pneumonoultra | 5 | Pneum~onoul~tra",
        "渡船渡船 | 5 | 渡船~渡船",
        "⛴ 渡船 | 4 | ⛴~渡船",
        "<p>one</p><p>two</p> | 10 | <p>one</p>~<p>two</p>"
      })
  void breaksAtBlanksAndByWhatSignsTakeOnTheScreen(String text, int width, String lines) {
    assertThat(wrapped(text, width)).containsExactly(lines.split("~"));
  }

  @Property(tries = 300)
  void noLineIsWiderThanAskedAndNoSignIsLost(
      @ForAll @StringLength(max = 120) String text,
      @ForAll @IntRange(min = 2, max = 40) int width) {
    String printable = text.replaceAll("[^\\p{L}\\p{N} ]", "x");
    List<String> lines = wrapped(printable, width);
    assertThat(lines).allMatch(line -> Columns.width(line) <= width);
    assertThat(String.join("", lines).replace(" ", "")).isEqualTo(printable.replace(" ", ""));
  }

  @ParameterizedTest(name = "{0} in {1}: {2}")
  @CsvSource({"Fares,5,Fares", "Fares 2027,6,Fares…", "渡船渡船,4,渡…", "Fares,1,…", "Fares,0,''"})
  void aTextThatIsCutSaysSo(String text, int width, String cut) {
    assertThat(Columns.cut(text, width)).isEqualTo(cut);
    assertThat(Columns.width(Columns.fit(text, width))).isEqualTo(width);
  }
}
