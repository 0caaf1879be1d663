package weftex.cli.page;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a database holds must not act on the terminal that shows it. */
class VisibleTest {
  private static boolean acts(int c) {
    return c < ' '
        || c >= 0x7F && c < 0xA0
        || c == 0x061C
        || c == 0x200E
        || c == 0x200F
        || c >= 0x202A && c <= 0x202E
        || c >= 0x2066 && c <= 0x2069;
  }

  @Test
  void ordinaryTextStaysAsItIs() {
    String text = "Skerrow – Überfahrt 北港 \uD83D\uDEF3️ 5:30";
    assertThat(Visible.line(text)).isEqualTo(text);
    assertThat(Visible.text("plain ASCII ~")).isEqualTo("plain ASCII ~");
  }

  @Test
  void noSignThatActsGetsThrough() {
    for (int c = 0; c < 0x3000; c++) {
      String shown = Visible.line("a" + Character.toString(c) + "b");
      assertThat(shown.codePoints().noneMatch(VisibleTest::acts)).as("U+%04X", c).isTrue();
      assertThat(shown).as("U+%04X", c).startsWith("a").endsWith("b").hasSizeGreaterThan(2);
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"\u001B[2J", "\u001B]0;title\u0007", "\u009B31m", "\r\rdone", "\b\b\b"})
  void sequencesThatSteerATerminalAreSeen(String sequence) {
    String shown = Visible.line("fares " + sequence);
    assertThat(shown).startsWith("fares ");
    assertThat(shown.codePoints().noneMatch(VisibleTest::acts)).isTrue();
    assertThat(shown).isNotEqualTo("fares ");
  }

  @Test
  void aLineFeedCantBeginALineOfOurs() {
    assertThat(Visible.line("page\nweftex: done")).isEqualTo("page⏎weftex: done");
    assertThat(Visible.text("page\nweftex: done")).isEqualTo("page\nweftex: done");
  }

  @Test
  void aTabIsBlanksOnALineAndStaysInAText() {
    assertThat(Visible.line("a\tb")).isEqualTo("a    b");
    assertThat(Visible.text("a\tb")).isEqualTo("a\tb");
  }

  @Test
  void marksThatTurnTheDirectionAreNamed() {
    assertThat(Visible.line("\u202Egpj.exe")).isEqualTo("[U+202E]gpj.exe");
    assertThat(Visible.line("\u2066x\u2069")).isEqualTo("[U+2066]x[U+2069]");
    assertThat(Visible.line("\u0085")).isEqualTo("[U+0085]");
    assertThat(Visible.line("\u007F")).isEqualTo("␡");
  }

  @Test
  void whatIsShownOnceIsShownTheSameAgain() {
    String once = Visible.line("\u001B[1m\u202E\n\t");
    assertThat(Visible.line(once)).isEqualTo(once);
  }
}
