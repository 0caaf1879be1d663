package weftex.core.row;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class TableTest {
  private static final Table SAILINGS =
      new Table(
          "sailings",
          List.of(
              Column.of("note", ValueKind.TEXT),
              Column.of("day", ValueKind.WHOLE),
              Column.of("route", ValueKind.WHOLE)),
          List.of(2, 1),
          -1,
          List.of(),
          List.of());

  @Test
  void aKeyIsInItsOwnOrderWhateverTheOrderOfTheRow() {
    Map<String, Value> row =
        Map.of("note", Value.text("full"), "day", Value.whole(7), "route", Value.whole(3));
    assertThat(SAILINGS.names(SAILINGS.key())).containsExactly("route", "day");
    assertThat(SAILINGS.keyOf(row)).containsExactly(Value.whole(3), Value.whole(7));
    assertThat(Value.display(SAILINGS.keyOf(row))).isEqualTo("3, 7");
    assertThat(Value.display(List.of(Value.whole(3)))).isEqualTo("3");
    assertThat(Value.display(List.of(Value.whole(0), Value.NULL))).isEqualTo("0, NULL");
  }

  @Test
  void aColumnThatARowLacksIsMissingInItsKey() {
    assertThat(SAILINGS.keyOf(Map.of("route", Value.whole(3))))
        .isEqualTo(Arrays.asList(Value.whole(3), null));
  }

  @Test
  void columnsThatAreNotThereAreNamedPassedOverOrMakeAllMissing() {
    List<String> some = List.of("day", "berth");
    assertThatThrownBy(() -> SAILINGS.positions(some)).hasMessageContaining("no column berth");
    assertThat(SAILINGS.present(some)).containsExactly(1);
    assertThat(SAILINGS.positionsOrNone(some)).isEmpty();
    assertThat(SAILINGS.positionsOrNone(List.of("day", "note"))).containsExactly(1, 0);
  }

  @Test
  void aPartOfItKeepsItsKey() {
    Table part = SAILINGS.only(Set.of("day"));
    assertThat(part.columns()).extracting(Column::name).containsExactly("day", "route");
    assertThat(part.key()).containsExactly(1, 0);
    assertThat(part.names(part.key())).containsExactly("route", "day");
  }
}
