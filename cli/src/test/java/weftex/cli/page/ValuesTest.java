package weftex.cli.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.row.Value;

class ValuesTest {
  private static final String SAME = "Steep steps, slippery in the rain. ";

  private static List<String> shown(int width, Value... sides) {
    return java.util.Arrays.stream(sides)
        .map(value -> Values.shown(value, List.of(sides), width))
        .toList();
  }

  @ParameterizedTest
  @ValueSource(ints = {3, 30, 3000})
  void allSidesShowThePlaceWhereTheyPart(int times) {
    String same = SAME.repeat(times);
    List<String> shown =
        shown(
            60,
            Value.text(same + "Open at 7." + same),
            Value.text(same + "Open at 8." + same),
            Value.text(same + "Closed." + same));
    assertThat(shown).allSatisfy(text -> assertThat(text).startsWith("…").hasSizeLessThan(62));
    assertThat(shown.get(0)).contains("the rain. Open at 7.");
    assertThat(shown.get(1)).contains("the rain. Open at 8.");
    assertThat(shown.get(2)).contains("the rain. Closed.");
  }

  @Test
  void aSideThatIsAsAnotherIsCutAsTheOthersAre() {
    Value base = Value.text(SAME.repeat(5) + "Open.");
    Value live = Value.text(SAME.repeat(5) + "Closed.");
    assertThat(shown(60, base, base, live)).first().asString().startsWith("…").endsWith("Open.\"");
  }

  @Test
  void shortTextsAreShownFromTheirBeginning() {
    assertThat(shown(60, Value.text("Home"), Value.text("Homes"), Value.NULL))
        .containsExactly("\"Home\"", "\"Homes\"", "NULL");
    assertThat(shown(20, Value.text(SAME), Value.text("Other")))
        .first()
        .asString()
        .startsWith("\"St");
  }

  @Test
  void aLetterIsNeverCutInTwo() {
    String same = "\uD83D\uDE80".repeat(100);
    for (int width = 20; width < 40; width++) {
      assertThat(shown(width, Value.text(same + "a"), Value.text(same + "b")))
          .allSatisfy(text -> assertThat(text.charAt(1)).matches(Character::isHighSurrogate));
    }
  }

  @Test
  void longTextsAreKeptWhereTheyDiffer() {
    String same = SAME.repeat(3000);
    Value before = Value.text(same + "Open." + same);
    Value after = Value.text(same + "Closed." + same);
    Value cut = Values.cut(Map.of("text", before), List.of(Map.of("text", after))).get("text");
    assertThat(cut.display()).startsWith("…").contains("Open.").hasSizeLessThan(2100);
    assertThat(
            Values.shown(
                cut,
                Values.cut(Map.of("text", after), List.of(Map.of("text", before))).get("text"),
                60))
        .contains("Open.");
    assertThat(Values.cut(Map.of("text", Value.text(SAME)), List.of()).get("text").display())
        .isEqualTo(SAME);
  }
}
