package weftex.core.value;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import org.junit.jupiter.api.Test;
import weftex.core.row.Part;
import weftex.core.row.RowName;
import weftex.core.row.Value;

class WeaverTest {
  private static final RowName ROW = new RowName("pages", BigInteger.valueOf(4));

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  private static String text(Weaver weaver) {
    return new String(weaver.bytes(), StandardCharsets.UTF_8);
  }

  @Test
  void bytesComeOneAfterTheOther() {
    Weaver weaver = Weaver.of(bytes("Norrey ")).add(bytes("to Brae, daily"), 0, 7);
    assertThat(weaver.isPending()).isFalse();
    assertThat(text(weaver)).isEqualTo("Norrey to Brae");
  }

  @Test
  void aNumberThatIsNotKnownYetKeepsTheWholeOpen() {
    Weaver weaver = Weaver.of(bytes("?p=")).add(ROW).add(bytes("#top"));
    assertThat(weaver.isPending()).isTrue();
    assertThat(weaver.parts()).hasSize(3);
    assertThatThrownBy(weaver::bytes)
        .isInstanceOf(IllegalStateException.class)
        .hasMessage("a number is not known yet");
    assertThat(weaver.toValue(Value.text(""))).isInstanceOf(Value.Pending.class);
  }

  @Test
  void whatIsKnownTakesTheKindOfAnotherValue() {
    assertThat(Weaver.of(bytes("a")).toValue(Value.text("b"))).isEqualTo(Value.text("a"));
    assertThat(Weaver.of(bytes("a")).toValue(new Value.Binary(bytes("b"))))
        .isEqualTo(new Value.Binary(bytes("a")));
  }

  @Test
  void knownPiecesOfAnotherWeaverMeltIntoOne() {
    Weaver inner = Weaver.of(bytes("b")).add(ROW).add(bytes("c"));
    Weaver outer = Weaver.of(bytes("a")).add(inner).add(bytes("d"));
    assertThat(outer.parts()).hasSize(3);
    assertThat(((Part.Literal) outer.parts().get(0)).bytes()).isEqualTo(bytes("ab"));
    assertThat(((Part.Literal) outer.parts().get(2)).bytes()).isEqualTo(bytes("cd"));
  }

  @Test
  void aTextThatStatesItsLengthCountsBytesNotLetters() {
    assertThat(text(new Weaver().addSized(Weaver.of(bytes("Fähre"))))).isEqualTo("6:\"Fähre\"");
    Weaver open = new Weaver().addSized(Weaver.of(bytes("?p=")).add(ROW));
    assertThat(open.parts()).hasOnlyElementsOfType(Part.Sized.class);
  }

  @Test
  void aTextInAnotherOneIsSpeltAsItWas() {
    JsonText slashed = JsonText.read(bytes("a\\/b"), 0, 4);
    assertThat(text(new Weaver().addQuoted(Weaver.of(bytes("c/d")), slashed))).isEqualTo("c\\/d");
    JsonText bare = JsonText.read(bytes("a/b"), 0, 3);
    assertThat(text(new Weaver().addQuoted(Weaver.of(bytes("c/d")), bare))).isEqualTo("c/d");
    assertThat(new Weaver().addQuoted(new Weaver().add(ROW), bare).isPending()).isTrue();
  }

  @Test
  void base64IsOfTheWholeContent() {
    Weaver woven = new Weaver().addBase64(Weaver.of(bytes("Norrey")));
    assertThat(Base64.getDecoder().decode(woven.bytes())).isEqualTo(bytes("Norrey"));
    assertThat(new Weaver().addBase64(new Weaver().add(ROW)).parts())
        .hasOnlyElementsOfType(Part.Base64.class);
  }
}
