package weftex.core.site;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.value.Format;
import weftex.core.yaml.YamlProblem;

class InsideRuleTest {
  private static final Table PAGES = table("pages", "id", "body");
  private static final Table DETAILS = table("details", "id", "name", "value");

  private static Table table(String name, String... columns) {
    return new Table(
        name,
        List.of(columns).stream()
            .map(
                c ->
                    new Column(
                        c,
                        c.equals("id") ? ValueKind.WHOLE : ValueKind.TEXT,
                        "x",
                        0,
                        false,
                        false,
                        false))
            .toList(),
        List.of(0),
        0,
        List.of(),
        List.of());
  }

  private static TableModel details(String inside) throws YamlProblem {
    SiteModel model =
        SiteModel.read(
            "model: test\nmarkup: [{css-class: page-, to: pages}]\ntables: {details: "
                + inside
                + "}");
    return SiteMap.resolve(model, List.of(PAGES, DETAILS)).table("details");
  }

  private static List<Value> row(String name) {
    return List.of(Value.whole(1), Value.text(name), Value.text("x"));
  }

  @Test
  void aRuleHoldsForTheRowsThatItNames() throws YamlProblem {
    Inside rule =
        details(
                "{inside: {value: [{when: {name: [icon, 'menu_*']}, format: json, refers: [{to: pages}]}]}}")
            .contents()
            .inside()
            .get(0);
    assertThat(rule.holdsFor(row("icon"))).isTrue();
    assertThat(rule.holdsFor(row("menu_top"))).isTrue();
    assertThat(rule.holdsFor(row("other"))).isFalse();
    assertThat(rule.column()).isEqualTo(2);
    assertThat(rule.format()).isEqualTo(Format.JSON);
  }

  @Test
  void theModelsMarkupIsAddedWhereItIsAskedFor() throws YamlProblem {
    assertThat(details("{inside: {value: [{markup: true}]}}").contents().inside().get(0).places())
        .extracting(place -> place.text().cssClass())
        .containsExactly("page-");
  }

  @Test
  void whatIsNotThereIsPassedOver() throws YamlProblem {
    assertThat(details("{inside: {gone: [{markup: true}]}}").contents().inside()).isEmpty();
    assertThat(
            details("{inside: {value: [{when: {gone: x}, refers: [{to: pages}]}]}}")
                .contents()
                .inside())
        .isEmpty();
    assertThat(
            details("{inside: {value: [{refers: [{to: gone}, {to: pages}]}]}}")
                .contents()
                .inside()
                .get(0)
                .places())
        .hasSize(1);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          {to: pages, path: a, css-class: b-}    | a place is said once
          {to: pages, block: image}              | 'attribute' belongs to a 'block' or a 'shortcode'
          {to: pages, attribute: id}             | 'attribute' belongs to a 'block' or a 'shortcode'
          {path: a}                              | to
          {to: pages, pth: a}                    | unknown key 'pth'
          """)
  void aPlaceThatSaysTooMuchOrTooLittleIsAProblem(String place, String sentence) {
    assertThatThrownBy(() -> details("{inside: {value: [{refers: [" + place + "]}]}}"))
        .isInstanceOf(YamlProblem.class)
        .satisfies(e -> assertThat(((YamlProblem) e).sentence()).contains(sentence));
  }

  @Test
  void aSiteAddsToWhatStays() throws YamlProblem {
    SiteModel model =
        SiteModel.read("model: test\ntables: {details: {stays: {name: [home]}}}")
            .withStays(
                Map.of(
                    "details",
                    Map.of("name", List.of("mail_*")),
                    "pages",
                    Map.of("body", List.of("x"))));
    SiteMap map = SiteMap.resolve(model, List.of(PAGES, DETAILS));
    assertThat(map.table("details").stays(row("home"))).isTrue();
    assertThat(map.table("details").stays(row("mail_catcher"))).isTrue();
    assertThat(map.table("details").stays(row("title"))).isFalse();
    assertThat(map.table("pages").stays(List.of(Value.whole(1), Value.text("x")))).isTrue();
  }
}
