package weftex.core.match;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import weftex.core.compare.Difference;
import weftex.core.compare.MemoryLog;
import weftex.core.merge.RowMerger;
import weftex.core.row.Part;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.SortKey;
import weftex.core.row.Value;

/** What was found of a row comes back as it was, whatever of it is as the difference has it. */
class SettledSidesTest {
  private static final List<Value> BEFORE = values("Fares", "https://staging.skerrow.example/a");
  private static final List<Value> RAW =
      values("Winter fares", "https://staging.skerrow.example/b");
  private static final List<Value> MAPPED = values("Winter fares", "https://skerrow.example/b");
  private static final List<Value> LIVE = values("Fares 2027", "https://skerrow.example/a");

  private static final RowMerger.Merged MERGED =
      new RowMerger.Merged(
          new TreeMap<>(Map.of(1, MAPPED.get(1), 2, Value.NULL)),
          new TreeSet<>(List.of(0, 2)),
          new TreeMap<>(
              Map.of(
                  0,
                  new RowMerger.Partly(
                      Value.text("Winter fares 2027"),
                      Value.NULL,
                      List.of("title", "menus; \"top\"", "")))));

  private final MemoryLog log = new MemoryLog();
  private final SettledSides settled = new SettledSides(log);

  private static List<Value> values(String title, String url) {
    return List.of(Value.text(title), Value.text(url), Value.whole(7));
  }

  private static Row row(List<Value> values) {
    return Row.of(SortKey.ofWhole(12), values);
  }

  private Sides again(Difference read, Sides sides) throws Exception {
    long at = log.append(read);
    settled.write(at, read, sides);
    return settled.read(at, read).orElseThrow();
  }

  private static void assertSame(Sides one, Sides other) {
    assertThat(one.base().isPresent()).isEqualTo(other.base().isPresent());
    assertThat(one.base().values()).isEqualTo(other.base().values());
    assertThat(one.base().key()).isEqualTo(other.base().key());
    assertThat(one.target().isPresent()).isEqualTo(other.target().isPresent());
    assertThat(one.target().values()).isEqualTo(other.target().values());
    assertThat(one.target().key()).isEqualTo(other.target().key());
    assertThat(one.source()).isEqualTo(other.source());
    assertThat(one.rawSource()).isEqualTo(other.rawSource());
    assertThat(one.fresh()).isEqualTo(other.fresh());
    assertThat(one.merged()).isEqualTo(other.merged());
  }

  @Test
  void aRowThatWasMergedInside() throws Exception {
    Difference read = new Difference(3, row(BEFORE), row(RAW), row(LIVE));
    Sides sides = new Sides(read.base(), MAPPED, RAW, read.target(), false);
    sides.merged(() -> MERGED);
    assertSame(again(read, sides), sides);
  }

  @Test
  void aRowThatIsAnotherThanTheDifferenceHas() throws Exception {
    Difference read = new Difference(3, Row.ABSENT, row(RAW), Row.ABSENT);
    Row matched = Row.of(SortKey.ofWhole(44), LIVE);
    Sides sides = new Sides(matched, MAPPED, RAW, matched, true);
    assertSame(again(read, sides), sides);
    Difference other = new Difference(3, row(BEFORE), row(RAW), row(LIVE));
    Sides gone = new Sides(Row.ABSENT, RAW, RAW, Row.ABSENT, false);
    assertSame(again(other, gone), gone);
  }

  @Test
  void aRowThatTheSourceRemoved() throws Exception {
    Difference read = new Difference(0, row(BEFORE), Row.ABSENT, row(LIVE));
    Sides sides = new Sides(read.base(), List.of(), List.of(), read.target(), false);
    assertSame(again(read, sides), sides);
  }

  @Test
  void aRowWithNumbersThatAreNotKnownYet() throws Exception {
    RowName page = RowName.parse("pages#9");
    Part literal = new Part.Literal("{\"id\":".getBytes(StandardCharsets.UTF_8));
    Part number = new Part.Number(page);
    Value pending =
        new Value.Pending(
            List.of(
                literal,
                new Part.Sized(List.of(literal, number)),
                new Part.Base64(List.of(number)),
                new Part.Quoted(List.of(number), false, false),
                new Part.Quoted(List.of(number), true, false),
                new Part.Quoted(List.of(number), false, true),
                new Part.Quoted(List.of(new Part.Sized(List.of(number)), literal), true, true)));
    List<Value> open = List.of(RAW.get(0), pending, new Value.Fresh(page));
    Difference read = new Difference(0, row(BEFORE), row(RAW), row(LIVE));
    Sides sides = new Sides(read.base(), open, RAW, read.target(), false);
    sides.merged(
        () ->
            new RowMerger.Merged(
                new TreeMap<>(Map.of(2, open.get(2))),
                new TreeSet<>(List.of(1)),
                new TreeMap<>(Map.of(1, new RowMerger.Partly(pending, MAPPED.get(1), List.of())))));
    assertSame(again(read, sides), sides);
  }

  @Test
  void everyKindOfValue() throws Exception {
    List<Value> kinds =
        List.of(
            new Value.Binary(new byte[] {0, -1}),
            new Value.Decimal("12.50"),
            new Value.Whole(BigInteger.TWO.pow(80)));
    Difference read = new Difference(0, Row.ABSENT, row(RAW), Row.ABSENT);
    Sides sides = new Sides(Row.ABSENT, kinds, RAW, Row.ABSENT, true);
    assertSame(again(read, sides), sides);
  }

  @Test
  void manyRowsOfSeveralTablesAreFoundAndOneThatComesTooLateIsNot() throws Exception {
    List<Difference> read = new ArrayList<>();
    List<Long> at = new ArrayList<>();
    for (int i = 0; i < 100; i++) {
      read.add(new Difference(i % 2, row(BEFORE), row(values("No. " + i, "")), row(LIVE)));
      at.add(log.append(read.get(i)));
    }
    for (int i = 4; i < 100; i++) {
      settled.write(at.get(i), read.get(i), sides(read.get(i), i));
    }
    settled.write(at.get(2), read.get(2), sides(read.get(2), 2));
    for (int i = 4; i < 100; i++) {
      assertSame(settled.read(at.get(i), read.get(i)).orElseThrow(), sides(read.get(i), i));
    }
    assertThat(settled.read(at.get(2), read.get(2))).isEmpty();
    assertThat(settled.read(at.get(3), read.get(3))).isEmpty();
  }

  private static Sides sides(Difference read, int i) {
    return new Sides(
        read.base(), values("mapped " + i, ""), read.source().values(), read.target(), false);
  }
}
