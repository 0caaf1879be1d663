package weftex.cli.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.cli.session.Terminal;
import weftex.core.row.Value;

class PageTest {
  private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();

  private Page page(int width, boolean colour) {
    return new Page(
        new PrintStream(bytes, true, StandardCharsets.UTF_8),
        new Terminal(width, colour, true, true, false, false));
  }

  private List<String> lines() {
    return bytes.toString(StandardCharsets.UTF_8).lines().toList();
  }

  @ParameterizedTest
  @ValueSource(ints = {40, 60, 80, 200})
  void aTableIsNoWiderThanTheTerminal(int width) {
    page(width, false)
        .table(
            List.of(
                Page.Heading.text("table"), Page.Heading.text("what"), Page.Heading.number("rows")),
            List.of(
                List.of("pages", "a rather long remark about this table ".repeat(5), "1,000,000")));
    assertThat(lines()).allSatisfy(line -> assertThat(line.length()).isLessThanOrEqualTo(width));
    assertThat(lines().get(1)).contains("pages").endsWith("1,000,000");
  }

  @Test
  void noWordOfATableIsCutAndWideLettersKeepItsColumns() {
    page(40, false)
        .table(
            List.of(
                Page.Heading.text("table"), Page.Heading.text("note"), Page.Heading.text("what")),
            List.of(
                List.of("a_name_that_is_longer_than_the_rest_of_it", "", "one two three four"),
                List.of("島の時刻表", "", "five")));
    assertThat(lines())
        .containsExactly(
            " table                                      what",
            " a_name_that_is_longer_than_the_rest_of_it  one",
            "                                            two",
            "                                            three",
            "                                            four",
            " 島の時刻表                                 five");
  }

  @Test
  void controlCharactersAreShownAndNeverSent() {
    assertThat(Page.shortened("a\u001B[31mred\nnext\u202Eesrever\u0007", 80))
        .isEqualTo("a·[31mred⏎next·esrever·");
  }

  @Test
  void cuttingKeepsWholeCharacters() {
    assertThat(Page.shortened("🏮🏮🏮🏮", 3)).isEqualTo("🏮🏮…");
    assertThat(Page.shortened("short", 5)).isEqualTo("short");
  }

  @Test
  void twoLongTextsAreCutWhereTheyBeginToDiffer() {
    Value old = Value.text("the same beginning ".repeat(20) + "one end");
    Value now = Value.text("the same beginning ".repeat(20) + "another end");
    assertThat(Values.shown(old, now, 40))
        .startsWith("…")
        .contains("one end")
        .hasSizeLessThanOrEqualTo(40);
    assertThat(Values.shown(now, old, 40)).contains("another end");
  }

  @Test
  void withoutColourThereIsNoEscape() {
    assertThat(page(80, false).strong("x") + page(80, false).alert("x")).isEqualTo("xx");
    assertThat(page(80, true).strong("x")).contains("\u001B[");
  }

  @Test
  void runningTextBreaksBetweenWords() {
    page(20, false).words("one two three four five six seven");
    assertThat(lines()).containsExactly("one two three four", "five six seven");
  }
}
