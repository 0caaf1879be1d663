package weftex.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.util.LinkedHashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.row.Value;

class RememberedTextsTest {
  @Test
  void aMapIsReadAsItWasWritten() {
    Map<BigInteger, String> texts = new LinkedHashMap<>();
    texts.put(BigInteger.valueOf(12), "1");
    texts.put(BigInteger.valueOf(7), "zurück");
    texts.put(BigInteger.ZERO, "");
    Value value = RememberedTexts.of(texts);
    assertThat(value.display()).isEqualTo("a:3:{i:12;s:1:\"1\";i:7;s:7:\"zurück\";i:0;s:0:\"\";}");
    assertThat(RememberedTexts.read(value)).containsExactlyEntriesOf(texts);
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "a:0:{}", "a:1:{i:5;s:9:\"cut", "{\"5\":\"1\"}", "s:1:\"1\";"})
  void whatIsNoSuchMapHoldsNothing(String text) {
    assertThat(RememberedTexts.read(Value.text(text))).isEmpty();
    assertThat(RememberedTexts.read(Value.NULL)).isEmpty();
  }

  @Test
  void whatIsNoTextUnderANumberIsPassedOver() {
    assertThat(
            RememberedTexts.read(Value.text("a:3:{s:1:\"x\";s:1:\"1\";i:4;i:1;i:5;s:4:\"spam\";}")))
        .containsExactly(Map.entry(BigInteger.valueOf(5), "spam"));
  }
}
