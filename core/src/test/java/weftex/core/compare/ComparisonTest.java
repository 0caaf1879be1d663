package weftex.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

class ComparisonTest {
  private static final List<Column> COLUMNS =
      List.of(Column.of("id", ValueKind.WHOLE), Column.of("text", ValueKind.TEXT));
  private static final Table KEYED =
      new Table("pages", COLUMNS, List.of(0), 0, List.of(), List.of());
  private static final Table KEYLESS =
      new Table("words", COLUMNS, List.of(), -1, List.of(), List.of());

  private static Side side(Map<Integer, String> rows) {
    return table -> {
      Iterator<Map.Entry<Integer, String>> all = new TreeMap<>(rows).entrySet().iterator();
      return stream(() -> all.hasNext() ? row(all.next()) : Row.ABSENT);
    };
  }

  private static Row row(Map.Entry<Integer, String> entry) {
    return Row.of(
        SortKey.ofWhole(entry.getKey()),
        List.of(Value.whole(entry.getKey()), Value.text(entry.getValue())));
  }

  private interface Next {
    Row next();
  }

  private static RowStream stream(Next next) {
    return new RowStream() {
      @Override
      public Row next() {
        return next.next();
      }

      @Override
      public void close() {}
    };
  }

  private static List<TableModel> models(Table table) {
    return List.copyOf(SiteMap.resolve(SiteModel.PLAIN, List.of(table)).tables());
  }

  private static Comparison compare(Table table, Side base, Side source, Side target)
      throws IOException {
    return Comparison.threeWay(
        models(table), new Comparison.Sides(base, source, target), new MemoryLog(), rows -> {});
  }

  /**
   * Staging still spells live's address in a text, as it came from there. Once a merge has written
   * another cell of that row, the row is looked at in any case, and must be no edit of live's.
   */
  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void anAddressThatTheTargetStillSpellsAsTheSourceDoesIsNoEdit(boolean merged) throws Exception {
    Comparison comparison = spelledAsLive(merged, side(LIVES));
    assertThat(comparison.tally(0).sourceUpdated()).isZero();
    for (long at : comparison.bySource(0).toArray()) {
      Difference row = comparison.log().read(at);
      assertThat(row.source().values()).isEqualTo(row.target().values());
    }
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void norIfTheTargetHasRemovedTheRow(boolean merged) throws Exception {
    Comparison comparison = spelledAsLive(merged, side(Map.of()));
    assertThat(comparison.tally(0).sourceUpdated()).isZero();
    assertThat(comparison.tally(0).targetRemoved()).isEqualTo(1);
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void norIfTheTargetHasEditedThatText(boolean merged) throws Exception {
    Comparison comparison =
        spelledAsLive(merged, side(Map.of(1, "see https://staging.example today")));
    assertThat(comparison.tally(0).sourceUpdated()).isZero();
    assertThat(comparison.tally(0).targetUpdated()).isEqualTo(1);
  }

  /** Staging saved the page anew, and so with its own address in it; then live removed it. */
  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void norIsItOneOfTheTargetToPutItsOwnThere(boolean merged) throws Exception {
    Side own = side(Map.of(1, "see https://staging.example"));
    for (long at : spelledAsLive(merged, side(Map.of()), own).bySource(0).toArray()) {
      Difference row = spelledAsLive(merged, side(Map.of()), own).log().read(at);
      assertThat(row.target().sameValues(row.base())).isTrue();
    }
    assertThat(spelledAsLive(merged, side(Map.of()), own).tally(0).sourceRemoved()).isEqualTo(1);
    assertThat(spelledAsLive(merged, own).tally(0).targetUpdated()).isZero();
  }

  /** Staging saved the page anew, with other words; live put other words behind the address. */
  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void norIfBothEditedThatText(boolean merged) throws Exception {
    Side lives = side(Map.of(1, "see https://live.example soon"));
    Side own = side(Map.of(1, "now see https://staging.example"));
    Comparison comparison = spelledAsLive(merged, lives, own);
    Difference row = comparison.log().read(comparison.bySource(0).toArray()[0]);
    assertThat(row.base().values()).contains(Value.text("see https://staging.example"));
    assertThat(row.source().values()).contains(Value.text("see https://staging.example soon"));
  }

  private static final Map<Integer, String> LIVES = Map.of(1, "see https://live.example");

  /** Live into staging; base and live say the same, and staging's addresses are others. */
  private static Comparison spelledAsLive(boolean merged, Side target) throws IOException {
    return spelledAsLive(merged, side(LIVES), target);
  }

  private static Comparison spelledAsLive(boolean merged, Side source, Side target)
      throws IOException {
    RowMapping mapping =
        (table, row) ->
            Row.of(
                row.key(),
                List.of(
                    row.values().get(0),
                    Value.text(row.values().get(1).display().replace("live.", "staging."))));
    BaseMoves moves =
        new BaseMoves() {
          @Override
          public boolean isMoved(int table) {
            return merged;
          }

          @Override
          public Moved moved(int table, Row base) {
            return new Moved(base, merged);
          }
        };
    return Comparison.threeWay(
        models(KEYED),
        new Comparison.Sides(
            side(LIVES), source, target, RowMapping.NONE, mapping, moves, KnownRanges.NONE),
        new MemoryLog(),
        rows -> {});
  }

  @Property
  void everyRowIsCountedAsWhatItIs(
      @ForAll @Size(12) List<@IntRange(max = 2) Integer> base,
      @ForAll @Size(12) List<@IntRange(max = 2) Integer> source,
      @ForAll @Size(12) List<@IntRange(max = 2) Integer> target)
      throws IOException {
    Comparison comparison =
        compare(KEYED, side(rows(base)), side(rows(source)), side(rows(target)));
    long same = 0;
    long added = 0;
    long updated = 0;
    long removed = 0;
    List<Integer> differing = new ArrayList<>();
    for (int i = 0; i < 12; i++) {
      int b = base.get(i);
      int s = source.get(i);
      boolean moved = s != b;
      same += b != 0 && !moved && b == target.get(i) ? 1 : 0;
      added += moved && b == 0 ? 1 : 0;
      removed += moved && s == 0 ? 1 : 0;
      updated += moved && b != 0 && s != 0 ? 1 : 0;
      if (moved) {
        differing.add(i);
      }
    }
    Tally tally = comparison.tally(0);
    assertThat(
            List.of(
                tally.unchanged(),
                tally.sourceAdded(),
                tally.sourceUpdated(),
                tally.sourceRemoved()))
        .containsExactly(same, added, updated, removed);
    List<Integer> found = new ArrayList<>();
    for (long at : comparison.bySource(0).toArray()) {
      Difference difference = comparison.log().read(at);
      Row any = difference.source().isPresent() ? difference.source() : difference.base();
      found.add(((Value.Whole) any.values().get(0)).number().intValue());
    }
    assertThat(found).isEqualTo(differing);
  }

  /** What is called here on the source is called there on the target. */
  private static final RowMapping THERE =
      (table, row) ->
          row.isPresent()
              ? Row.of(
                  row.key(),
                  List.of(
                      row.values().get(0),
                      Value.text(row.values().get(1).display().replace("here", "there"))))
              : row;

  @ParameterizedTest(name = "base {0}, source {1}, target {2}: {3}")
  @CsvSource({
    "here, here, here, same",
    "here, here, there, same",
    "here, here 2, here, source",
    "here, here, here 2, target",
    "here, here 2, here 2, both",
    "here, here 2, here 3, both"
  })
  void aTargetThatStillHasTheSourcesNameIsNotEdited(
      String base, String source, String target, String changed) throws IOException {
    Comparison comparison =
        Comparison.threeWay(
            models(KEYED),
            new Comparison.Sides(
                side(Map.of(1, base)),
                side(Map.of(1, source)),
                side(Map.of(1, target)),
                THERE,
                THERE,
                BaseMoves.NONE,
                KnownRanges.NONE),
            new MemoryLog(),
            rows -> {});
    Tally tally = comparison.tally(0);
    boolean bySource = changed.equals("source") || changed.equals("both");
    boolean byTarget = changed.equals("target") || changed.equals("both");
    assertThat(tally.sourceUpdated()).isEqualTo(bySource ? 1 : 0);
    assertThat(tally.targetUpdated()).isEqualTo(byTarget ? 1 : 0);
    assertThat(tally.unchanged()).isEqualTo(changed.equals("same") ? 1 : 0);
  }

  /** 0 says that there is no row; 1 and 2 are two texts. */
  private static Map<Integer, String> rows(List<Integer> kinds) {
    Map<Integer, String> rows = new TreeMap<>();
    for (int i = 0; i < kinds.size(); i++) {
      if (kinds.get(i) != 0) {
        rows.put(i, "text " + kinds.get(i));
      }
    }
    return rows;
  }

  @ParameterizedTest(name = "{0} in base, {1} on source, {2} on target: {3} to add, {4} to remove")
  @CsvSource({
    "0, 2, 0, 2, 0", "0, 2, 1, 1, 0", "0, 1, 1, 0, 0", "2, 1, 2, 0, 1",
    "2, 1, 1, 0, 0", "1, 1, 3, 0, 0", "3, 0, 3, 0, 3", "1, 2, 0, 1, 0"
  })
  void equalRowsWithoutAKeyAreCounted(
      int inBase, int inSource, int inTarget, int toAdd, int toRemove) throws IOException {
    Comparison comparison =
        compare(KEYLESS, equalRows(inBase), equalRows(inSource), equalRows(inTarget));
    int add = 0;
    int remove = 0;
    for (long at : comparison.bySource(0).toArray()) {
      Difference difference = comparison.log().read(at);
      add += difference.source().isPresent() && !difference.target().isPresent() ? 1 : 0;
      remove += !difference.source().isPresent() && difference.target().isPresent() ? 1 : 0;
    }
    assertThat(add).isEqualTo(toAdd);
    assertThat(remove).isEqualTo(toRemove);
  }

  private static Side equalRows(int count) {
    return table -> {
      int[] left = {count};
      return stream(() -> left[0]-- > 0 ? row(Map.entry(1, "tide")) : Row.ABSENT);
    };
  }

  @Test
  void withoutABaseRowsOfTheTargetAloneAreItsOwn() throws IOException {
    Comparison comparison =
        Comparison.twoWay(
            models(KEYED),
            new Comparison.TwoSides(
                side(Map.of(1, "a", 2, "b")),
                side(Map.of(2, "c", 3, "d")),
                RowMapping.NONE,
                Comparison.Pairs.BY_KEY),
            new MemoryLog(),
            rows -> {});
    Tally tally = comparison.tally(0);
    assertThat(tally.sourceAdded()).isEqualTo(1);
    assertThat(tally.sourceUpdated()).isEqualTo(1);
    assertThat(tally.sourceRemoved()).isZero();
    assertThat(tally.targetAdded()).isEqualTo(1);
  }
}
