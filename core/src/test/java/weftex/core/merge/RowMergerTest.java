package weftex.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.row.Value;

class RowMergerTest {
  private final RowMerger merger = new RowMerger(Value::equals);

  @ParameterizedTest(name = "base {0}, source {1}, target {2}: {3}")
  @CsvSource({
    "a, a, a, nothing",
    "a, a, b, nothing",
    "a, b, a, take b",
    "a, b, b, nothing",
    "a, b, c, clash",
    "NULL, b, NULL, take b",
    "a, NULL, a, take NULL",
    "a, NULL, b, clash",
    "NULL, NULL, a, nothing"
  })
  void decidesOneColumn(String base, String source, String target, String outcome) {
    RowMerger.Merged merged =
        merger.merge(row(base), row(source), row(target), Set.of(), RowMerger.InsideMerge.NONE);
    String found =
        merged.isNothing()
            ? "nothing"
            : merged.clashing().isEmpty() ? "take " + merged.taken().get(0).display() : "clash";
    assertThat(found).isEqualTo(outcome);
  }

  private static List<Value> row(String text) {
    return List.of(text.equals("NULL") ? Value.NULL : Value.text(text));
  }

  @Property
  void editsOfDifferentColumnsBothEndUpInTheRow(
      @ForAll @Size(6) List<@IntRange(max = 3) Integer> base,
      @ForAll @Size(6) List<@IntRange(max = 2) Integer> whoEdits) {
    List<Value> source = new ArrayList<>();
    List<Value> target = new ArrayList<>();
    List<Value> both = new ArrayList<>();
    for (int i = 0; i < base.size(); i++) {
      Value was = Value.whole(base.get(i));
      Value edited = Value.whole(base.get(i) + 10L);
      source.add(whoEdits.get(i) == 1 ? edited : was);
      target.add(whoEdits.get(i) == 2 ? edited : was);
      both.add(whoEdits.get(i) == 0 ? was : edited);
    }
    List<Value> bases = base.stream().map(Value::whole).toList();
    RowMerger.Merged merged =
        merger.merge(bases, source, target, Set.of(), RowMerger.InsideMerge.NONE);
    assertThat(merged.clashing()).isEmpty();
    List<Value> result = new ArrayList<>(target);
    merged.taken().forEach(result::set);
    assertThat(result).isEqualTo(both);
  }

  @Property
  void nothingOfEitherSideDisappearsWithoutBeingNamed(
      @ForAll @Size(4) List<@IntRange(max = 2) Integer> base,
      @ForAll @Size(4) List<@IntRange(max = 2) Integer> source,
      @ForAll @Size(4) List<@IntRange(max = 2) Integer> target) {
    RowMerger.Merged merged =
        merger.merge(
            values(base), values(source), values(target), Set.of(), RowMerger.InsideMerge.NONE);
    for (int i = 0; i < 4; i++) {
      int result = merged.taken().containsKey(i) ? source.get(i) : target.get(i);
      boolean sourceLost = !source.get(i).equals(base.get(i)) && result != source.get(i);
      boolean targetLost = !target.get(i).equals(base.get(i)) && result != target.get(i);
      assertThat(sourceLost || targetLost).isEqualTo(merged.clashing().contains(i));
    }
  }

  private static List<Value> values(List<Integer> numbers) {
    return numbers.stream().map(Value::whole).toList();
  }

  @Property
  void aRowsOwnNumberIsLeftAlone(@ForAll long one, @ForAll long other) {
    RowMerger.Merged merged =
        merger.merge(
            List.of(Value.whole(one)),
            List.of(Value.whole(other)),
            List.of(Value.whole(7)),
            Set.of(0),
            RowMerger.InsideMerge.NONE);
    assertThat(merged.isNothing()).isTrue();
  }
}
