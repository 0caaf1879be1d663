package weftex.core.row;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigInteger;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

class RowPackingTest {

  @Property
  void whatIsPackedComesBack(@ForAll("rows") List<Value> values) {
    byte[] packed = RowPacking.pack(values);
    assertThat(RowPacking.unpack(packed, 0, packed.length)).isEqualTo(values);
    assertThat(RowPacking.skip(packed, 0, values.size())).isEqualTo(packed.length);
  }

  @Property
  void rowsAreTheSameExactlyWhenTheirValuesAre(
      @ForAll("rows") List<Value> one, @ForAll("rows") List<Value> other) {
    SortKey key = SortKey.ofWhole(1);
    assertThat(Row.of(key, one).sameValues(Row.of(key, other))).isEqualTo(one.equals(other));
  }

  @Provide
  static Arbitrary<List<Value>> rows() {
    Arbitrary<Value> values =
        Arbitraries.oneOf(
            Arbitraries.just(Value.NULL),
            Arbitraries.strings().ofMaxLength(5).map(Value::text),
            Arbitraries.bytes().array(byte[].class).ofMaxSize(5).map(Value.Binary::new),
            Arbitraries.longs().map(Value::whole),
            Arbitraries.bigIntegers()
                .between(BigInteger.ZERO, BigInteger.TWO.pow(64))
                .map(Value.Whole::new),
            Arbitraries.bigDecimals().map(d -> new Value.Decimal(d.toPlainString())));
    return values.list().ofMaxSize(4);
  }

  @Test
  void emptyTextNullAndEmptyBytesAreThreeThings() {
    Row text = Row.of(SortKey.ofWhole(1), List.of(Value.text("")));
    Row nothing = Row.of(SortKey.ofWhole(1), List.of(Value.NULL));
    Row bytes = Row.of(SortKey.ofWhole(1), List.of(new Value.Binary(new byte[0])));
    assertThat(text.sameValues(nothing)).isFalse();
    assertThat(text.sameValues(bytes)).isFalse();
    assertThat(nothing.sameValues(Row.ABSENT)).isFalse();
    assertThat(Row.ABSENT.sameValues(Row.ABSENT)).isTrue();
  }

  @Test
  void aSliceOfASharedArrayIsReadAsARowOfItsOwn() {
    byte[] packed =
        RowPacking.pack(List.of(Value.text("lead"), Value.whole(-5), Value.text("tail")));
    int start = RowPacking.skip(packed, 0, 1);
    Row slice =
        new Row(SortKey.ofWhole(0), packed, start, RowPacking.skip(packed, start, 1) - start);
    assertThat(slice.values()).containsExactly(Value.whole(-5));
    assertThat(slice.sameValues(Row.of(SortKey.ofWhole(0), List.of(Value.whole(-5))))).isTrue();
  }

  @Test
  void aNumberThatIsNotKnownYetCanNotBePacked() {
    Value fresh = new Value.Fresh(new RowName("pages", BigInteger.TEN));
    assertThatThrownBy(() -> RowPacking.pack(List.of(fresh)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("pages#10");
  }

  @Test
  void aDigestKnowsTheValueItWasTakenFrom() {
    Value.Text text = new Value.Text("a long page".getBytes());
    assertThat(Value.Digest.of(text.utf8()).matches(text)).isTrue();
    assertThat(Value.Digest.of(text.utf8()).matches(Value.text("a long pagE"))).isFalse();
    assertThat(Value.Digest.of(text.utf8()).matches(Value.NULL)).isFalse();
  }
}
