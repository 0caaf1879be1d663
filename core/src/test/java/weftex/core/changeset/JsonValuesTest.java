package weftex.core.changeset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import weftex.core.row.Part;
import weftex.core.row.RowName;
import weftex.core.row.Value;

class JsonValuesTest {
  private static final RowName POST = new RowName("posts", BigInteger.valueOf(12));

  static List<Value> values() {
    Part number = new Part.Number(POST);
    Part text = new Part.Literal("é\"\n".getBytes(StandardCharsets.UTF_8));
    Part broken = new Part.Literal(new byte[] {(byte) 0xC3, 0, 'x'});
    return List.of(
        Value.NULL,
        Value.text("emoji 🏮 \u2028"),
        new Value.Text(new byte[] {(byte) 0xFF, 'a'}),
        Value.whole(-5),
        new Value.Whole(new BigInteger("18446744073709551615")),
        new Value.Decimal("12.50"),
        new Value.Binary(new byte[] {0, 1}),
        new Value.Fresh(POST),
        new Value.Digest("ab".repeat(32), 5000),
        new Value.Pending(
            List.of(
                text,
                number,
                broken,
                new Part.Sized(
                    List.of(text, number, new Part.Quoted(List.of(number, text), true, false))),
                new Part.Base64(List.of(new Part.Sized(List.of(number)))))));
  }

  @ParameterizedTest
  @MethodSource("values")
  void whatIsWrittenIsReadAgain(Value value) throws IOException {
    byte[] line = JsonLines.line(json -> JsonValues.write(json, "values", Map.of("v", value)));
    assertThat(JsonValues.readMap(JsonLines.parse(line).get("values")))
        .isEqualTo(Map.of("v", value));
  }

  /** Whoever reads a value of many megabytes should not need it twice. */
  @Test
  void longValuesAreWrittenInPieces() throws IOException {
    byte[] noise = new byte[3 << 20];
    new Random(5).nextBytes(noise);
    for (Value value :
        List.of(
            Value.text("é🏮\n".repeat(300_000)),
            new Value.Text(noise),
            new Value.Binary(noise),
            new Value.Binary(Arrays.copyOf(noise, (1 << 20) + 1)))) {
      byte[] line = JsonLines.line(json -> JsonValues.write(json, "values", Map.of("v", value)));
      JsonNode pieces = JsonLines.parse(line).get("values").get("v").elements().next();
      assertThat(pieces.isArray()).isTrue();
      assertThat(pieces.get(0).asText().length()).isLessThan(300_000);
      assertThat(JsonValues.readMap(JsonLines.parse(line).get("values")).get("v")).isEqualTo(value);
    }
  }

  @Test
  void openNumbersAreFilledInWithTheirLengthsAndEscapes() {
    Value.Pending pending =
        new Value.Pending(
            List.of(
                new Part.Literal("{\"a\":\"s:".getBytes(StandardCharsets.UTF_8)),
                new Part.Quoted(
                    List.of(
                        new Part.Sized(
                            List.of(
                                new Part.Literal("/p/".getBytes(StandardCharsets.UTF_8)),
                                new Part.Number(POST)))),
                    true,
                    true),
                new Part.Literal(";\"}".getBytes(StandardCharsets.UTF_8))));
    assertThat(pending.settled(row -> BigInteger.valueOf(1012)).display())
        .isEqualTo("{\"a\":\"s:7:\\\"\\/p\\/1012\\\";\"}");
    assertThat(pending.isOpen()).isTrue();
  }

  @Test
  void theNumberAtTheFrontOfALineIsFoundWithoutTheRest() throws IOException {
    byte[] line = "{\"before\":{\"change\":-12,\"table\":…".getBytes(StandardCharsets.UTF_8);
    assertThat(JsonLines.numberAtFront(line, "before", "change")).isEqualTo(-12);
    for (String other : List.of("{\"after\":{\"change\":1}}", "{\"before\":{\"table\":1}}", "{}")) {
      assertThatThrownBy(
              () ->
                  JsonLines.numberAtFront(
                      other.getBytes(StandardCharsets.UTF_8), "before", "change"))
          .isInstanceOf(IOException.class);
    }
  }

  @Test
  void whatIsNeverWrittenIsRefused() throws IOException {
    for (String json : List.of("{\"v\":true}", "{\"v\":{\"odd\":1}}", "{\"v\":{\"parts\":[7]}}")) {
      assertThatThrownBy(
              () -> JsonValues.readMap(JsonLines.parse(json.getBytes(StandardCharsets.UTF_8))))
          .isInstanceOf(IllegalArgumentException.class);
    }
  }
}
