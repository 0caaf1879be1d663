package weftex.core.changeset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigInteger;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import weftex.core.change.ChangeSetHeader;
import weftex.core.row.Part;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;

class WrittenValueTest {
  private static final String SETTING = "a:1:{s:4:\"logo\";i:5;}";

  private static ChangeSetHeader.ColumnType column(ValueKind kind) {
    return new ChangeSetHeader.ColumnType("c", kind, 0, "x");
  }

  static Stream<Arguments> readable() {
    return Stream.of(
        Arguments.of(ValueKind.TEXT, Value.text("a"), "b\n", Value.text("b\n")),
        Arguments.of(ValueKind.TEXT, Value.NULL, "⛴", Value.text("⛴")),
        Arguments.of(ValueKind.WHOLE, Value.whole(1), " -7 ", Value.whole(-7)),
        Arguments.of(
            ValueKind.WHOLE,
            Value.whole(1),
            "18446744073709551615",
            new Value.Whole(new BigInteger("18446744073709551615"))),
        Arguments.of(
            ValueKind.DECIMAL, new Value.Decimal("1.50"), "2.75", new Value.Decimal("2.75")),
        Arguments.of(ValueKind.ANY, Value.whole(1), "2", Value.whole(2)),
        Arguments.of(ValueKind.ANY, Value.text("1"), "2", Value.text("2")),
        Arguments.of(
            ValueKind.TEXT,
            Value.text(SETTING),
            SETTING.replace('5', '6'),
            Value.text(SETTING.replace('5', '6'))));
  }

  @ParameterizedTest
  @MethodSource("readable")
  void aTextBecomesWhatTheColumnHolds(ValueKind kind, Value current, String text, Value expected) {
    assertThat(WrittenValue.parse(column(kind), current, text)).isEqualTo(expected);
  }

  static Stream<Arguments> unreadable() {
    return Stream.of(
        Arguments.of(ValueKind.WHOLE, Value.whole(1), "twelve", "takes a whole number"),
        Arguments.of(ValueKind.WHOLE, Value.whole(1), "1.5", "takes a whole number"),
        Arguments.of(ValueKind.DECIMAL, new Value.Decimal("1"), "1,50", "takes a number"),
        Arguments.of(
            ValueKind.TEXT,
            Value.text(SETTING),
            "a:1:{s:5:\"logo\";i:5;}",
            "well-formed (serialized"),
        Arguments.of(ValueKind.TEXT, Value.text("{\"a\":1}"), "{\"a\":}", "well-formed (json"),
        Arguments.of(ValueKind.BINARY, Value.NULL, "x", "is bytes"),
        Arguments.of(
            ValueKind.WHOLE, new Value.Fresh(new RowName("pages", BigInteger.TEN)), "3", "new row"),
        Arguments.of(ValueKind.TEXT, Value.Digest.of(new byte[9]), "x", "not in the change set"),
        Arguments.of(
            ValueKind.TEXT, new Value.Text(new byte[] {(byte) 0xff, 'a'}), "x", "no UTF-8"));
  }

  @ParameterizedTest
  @MethodSource("unreadable")
  void whatTheColumnDoesNotHoldIsRefusedWithItsName(
      ValueKind kind, Value current, String text, String sentence) {
    assertThatThrownBy(() -> WrittenValue.parse(column(kind), current, text))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining(sentence);
  }

  @Test
  void aTextWithNumbersThatAreNotKnownYetCanNotBeEdited() {
    Value pending =
        new Value.Pending(
            List.of(
                new Part.Literal("picture-".getBytes(java.nio.charset.StandardCharsets.UTF_8)),
                new Part.Number(new RowName("pictures", BigInteger.ONE))));
    assertThat(WrittenValue.refusal(column(ValueKind.TEXT), pending)).isPresent();
  }
}
