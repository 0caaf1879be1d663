package weftex.core.row;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import org.junit.jupiter.api.Test;

class ColumnValuesTest {
  private static Map<String, Value> of(int expected, String... names) {
    ColumnValues.Builder builder = new ColumnValues.Builder(expected);
    for (String name : names) {
      builder.add(name, Value.text("the " + name));
    }
    return builder.build();
  }

  @Test
  void itIsTheMapThatWasPutInWhateverWasExpected() {
    Map<String, Value> plain = new LinkedHashMap<>();
    plain.put("slug", Value.text("the slug"));
    plain.put("id", Value.text("the id"));
    plain.put("title", Value.text("the title"));
    for (int expected : List.of(0, 1, 3, 20)) {
      Map<String, Value> values = of(expected, "slug", "id", "title");
      assertThat(values).isEqualTo(plain).hasSameHashCodeAs(plain);
      assertThat(plain).isEqualTo(values);
      assertThat(values.keySet()).containsExactly("slug", "id", "title");
    }
    assertThat(of(4)).isEmpty();
  }

  @Test
  void aNameIsFoundWhereverItComesFrom() {
    Map<String, Value> values = of(3, "slug", "id");
    assertThat(values.get(new String("id"))).isEqualTo(Value.text("the id"));
    assertThat(values.containsKey(new String("slug"))).isTrue();
    assertThat(values.get("ID")).isNull();
    assertThat(values.getOrDefault("title", Value.NULL)).isEqualTo(Value.NULL);
    assertThat(values.get(null)).isNull();
  }

  @Test
  void nothingChangesIt() {
    Map<String, Value> values = of(1, "id");
    assertThatThrownBy(() -> values.put("id", Value.NULL))
        .isInstanceOf(UnsupportedOperationException.class);
    assertThatThrownBy(() -> values.remove("id")).isInstanceOf(UnsupportedOperationException.class);
    Iterator<Map.Entry<String, Value>> entries = values.entrySet().iterator();
    entries.next();
    assertThatThrownBy(entries::next).isInstanceOf(NoSuchElementException.class);
  }

  @Test
  void aWholeRowIsNamedByItsTable() {
    Table table =
        new Table(
            "fares",
            List.of(Column.of("route", ValueKind.WHOLE), Column.of("price", ValueKind.DECIMAL)),
            List.of(0),
            -1,
            List.of(),
            List.of());
    assertThat(ColumnValues.of(table, List.of(Value.whole(7), new Value.Decimal("8.50"))))
        .containsExactly(
            Map.entry("route", Value.whole(7)), Map.entry("price", new Value.Decimal("8.50")));
  }
}
