package weftex.core.address;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.core.compare.MemoryLog;
import weftex.core.mask.Masking;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;

class MappedRowsTest {
  private static final Table NOTES =
      new Table(
          "notes",
          List.of(
              column("id", ValueKind.WHOLE),
              column("name", ValueKind.TEXT),
              column("text", ValueKind.TEXT)),
          List.of(0),
          0,
          List.of(),
          List.of());

  private static Column column(String name, ValueKind kind) {
    return new Column(name, kind, "x", 0, false, false, false);
  }

  private static MappedRows rows(String model) throws Exception {
    return rows(model, MappedRows.Prefixes.SAME);
  }

  private static MappedRows rows(String model, MappedRows.Prefixes prefixes) throws Exception {
    AddressMap map =
        AddressMap.of(
            new CopyAddress(
                Optional.of(Address.parse("https://staging.example")), false, Optional.empty()),
            new CopyAddress(
                Optional.of(Address.parse("https://live.example")), false, Optional.empty()),
            List.of(),
            false);
    return new MappedRows(
        map,
        AddressMap.NONE,
        prefixes,
        Masking.NONE,
        List.copyOf(SiteMap.resolve(SiteModel.read(model), List.of(NOTES)).tables()));
  }

  private static Row row(long id, String name, String text) {
    return Row.of(
        new SortKey.Builder().add(BigInteger.valueOf(id)).build(),
        List.of(Value.whole(id), Value.text(name), Value.text(text)));
  }

  private static String renamed(String name, String from, String into) throws Exception {
    MappedRows rows =
        rows(
            "model: test\ntables: {notes: {prefixed: {name: {names: [roles, 'user-*'], except: ['wp_*']}}}}",
            new MappedRows.Prefixes(from, into));
    return rows.map(0, row(1, name, "stg_roles")).values().get(1).display()
        + " "
        + rows.map(0, row(1, name, "stg_roles")).values().get(2).display();
  }

  @Test
  void namesThatBeginWithACopySPrefixBeginWithTheOthers() throws Exception {
    assertThat(renamed("stg_roles", "stg_", "wp_")).isEqualTo("wp_roles stg_roles");
    assertThat(renamed("stg_user-theme", "stg_", "wp_")).isEqualTo("wp_user-theme stg_roles");
    assertThat(renamed("stg_map", "stg_", "wp_")).isEqualTo("wp_map stg_roles");
    assertThat(renamed("wp_roles", "wp_", "stg_")).isEqualTo("stg_roles stg_roles");
    assertThat(renamed("wp_page_for_privacy_policy", "wp_", "stg_"))
        .as("a name of the CMS itself")
        .isEqualTo("wp_page_for_privacy_policy stg_roles");
    assertThat(renamed("wp_page_for_privacy_policy", "stg_", "wp_"))
        .isEqualTo("wp_page_for_privacy_policy stg_roles");
    assertThat(renamed("stg_roles", "stg_", "stg_")).isEqualTo("stg_roles stg_roles");
  }

  @Test
  void aRowWithoutAnAddressIsTheVerySameRow() throws Exception {
    Row row = row(1, "a", "https://elsewhere.example");
    assertThat(rows("model: test").map(0, row)).isSameAs(row);
    assertThat(rows("model: test").map(0, Row.ABSENT)).isSameAs(Row.ABSENT);
  }

  @Test
  void whatMovesIsCountedByColumnAndForm() throws Exception {
    MappedRows rows = rows("model: test");
    rows.moves(0, row(9, "x", "https://staging.example/before-it-counts"));
    MappedCells cells = rows.counting(new MemoryLog());
    rows.moves(0, row(1, "//staging.example", "https://staging.example http://staging.example"));
    rows.moves(0, row(2, "x", "https://staging.example/a https:\\/\\/staging.example"));
    rows.moves(0, row(3, "x", "nothing"));
    assertThat(cells.mapped((table, key) -> true))
        .containsExactly(
            new MappedCells.Mapped("notes", "name", 1, Map.of(Form.NO_SCHEME, 1L)),
            new MappedCells.Mapped(
                "notes", "text", 2, Map.of(Form.PLAIN, 2L, Form.OTHER_SCHEME, 1L, Form.JSON, 1L)));
    assertThat(cells.mapped((table, key) -> key.equals(List.of(Value.whole(2)))))
        .containsExactly(
            new MappedCells.Mapped("notes", "text", 1, Map.of(Form.PLAIN, 1L, Form.JSON, 1L)));
  }

  @Test
  void formatsThatTheModelDeclaresAreKept() throws Exception {
    MappedRows rows =
        rows(
            """
            model: test
            tables:
              notes:
                inside:
                  text:
                    - {when: {name: hidden}, format: base64}
                    - {when: {name: prose}, format: text}
                    - {when: {name: strict}, format: json}
            """);
    String hidden = "a:1:{i:0;s:23:\"https://staging.example\";}";
    assertThat(text(rows.map(0, row(1, "hidden", encoded(hidden)))))
        .isEqualTo(encoded("a:1:{i:0;s:20:\"https://live.example\";}"));
    assertThat(text(rows.map(0, row(1, "other", encoded(hidden))))).isEqualTo(encoded(hidden));
    assertThat(text(rows.map(0, row(1, "prose", hidden))))
        .isEqualTo("a:1:{i:0;s:23:\"https://live.example\";}");
    assertThat(text(rows.map(0, row(1, "strict", "[\"https://staging.example\"]"))))
        .isEqualTo("[\"https://live.example\"]");
    String malformed = "[\"https://staging.example\"";
    assertThat(text(rows.map(0, row(1, "strict", malformed)))).isEqualTo(malformed);
  }

  private static String encoded(String text) {
    return Base64.getEncoder().encodeToString(text.getBytes(StandardCharsets.UTF_8));
  }

  private static String text(Row row) {
    return row.values().get(2).display();
  }
}
