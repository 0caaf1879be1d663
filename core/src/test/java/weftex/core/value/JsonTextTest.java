package weftex.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class JsonTextTest {
  private static JsonText read(String inside) {
    byte[] bytes = inside.getBytes(StandardCharsets.UTF_8);
    return JsonText.read(bytes, 0, bytes.length);
  }

  private static String said(JsonText text) {
    return new String(text.text(), StandardCharsets.UTF_8);
  }

  private static String quoted(JsonText like, String other) {
    return new String(like.quote(other.getBytes(StandardCharsets.UTF_8)), StandardCharsets.UTF_8);
  }

  @Test
  void escapesStandForWhatTheySay() {
    assertThat(said(read("a\\tb\\nc\\\"d\\\\e"))).isEqualTo("a\tb\nc\"d\\e");
    assertThat(said(read("\\b\\f\\r"))).isEqualTo("\b\f\r");
    assertThat(said(read("F\\u00e4hre"))).isEqualTo("Fähre");
  }

  @Test
  void aLetterOfTwoUnitsIsOne() {
    assertThat(said(read("\\ud83d\\udea2 sails"))).isEqualTo("🚢 sails");
  }

  @Test
  void slashesAreSpeltAsBefore() {
    assertThat(quoted(read("a\\/b"), "x/y")).isEqualTo("x\\/y");
    assertThat(quoted(read("a/b"), "x/y")).isEqualTo("x/y");
    assertThat(quoted(read("no sign of it"), "x/y")).as("as PHP writes them").isEqualTo("x\\/y");
  }

  @Test
  void lettersBeyondAsciiAreSpeltAsBefore() {
    assertThat(quoted(read("F\\u00e4hre"), "Küste")).isEqualTo("K\\u00fcste");
    assertThat(quoted(read("Fähre"), "Küste")).isEqualTo("Küste");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"plain", "a\\/b", "a/b", "F\\u00e4hre \\/", "Fähre /", "line\\nbreak", ""})
  void whatIsSpeltInOneWayComesBackByteForByte(String inside) {
    JsonText text = read(inside);
    assertThat(text.exact()).isTrue();
    assertThat(quoted(text, said(text))).isEqualTo(inside);
  }

  @ParameterizedTest
  @ValueSource(strings = {"a\\/b/c", "F\\u00e4hre Küste", "\\u0061"})
  void whatIsSpeltInTwoWaysIsKnownNotToComeBack(String inside) {
    assertThat(read(inside).exact()).isFalse();
  }
}
