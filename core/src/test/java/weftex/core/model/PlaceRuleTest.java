package weftex.core.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.yaml.StrictYaml;
import weftex.core.yaml.YamlProblem;

/** A place as a model file writes it: all keys side by side, whatever facet they belong to. */
class PlaceRuleTest {
  private static PlaceRule read(String yaml) throws YamlProblem {
    return StrictYaml.read(yaml, PlaceRule.class);
  }

  @Test
  void aPathAndWhatIsSaidOfIt() throws YamlProblem {
    PlaceRule rule = read("{to: pages, path: mail.*.page, keys: true, unset: '-1', offer: true}");
    assertThat(rule)
        .isEqualTo(new PlaceRule("pages", "mail.*.page", true, rule.text(), "-1", true));
    assertThat(rule.isPattern()).isFalse();
  }

  @Test
  void theWholeValueIsWhereNoPlaceIsSaid() throws YamlProblem {
    PlaceRule rule = read("{to: pages}");
    assertThat(rule.path()).isEmpty();
    assertThat(rule.unset()).isEqualTo("0");
    assertThat(rule.isPattern()).isFalse();
    assertThat(PlaceRule.at("pages", "", false, "0")).isEqualTo(rule);
  }

  @Test
  void placesInRunningText() throws YamlProblem {
    assertThat(read("{to: pictures, css-class: wp-image-}").text().cssClass())
        .isEqualTo("wp-image-");
    assertThat(read("{to: pages, query: [p, page_id]}").text().query())
        .containsExactly("p", "page_id");
    assertThat(read("{to: pages, query: p}").text().query()).containsExactly("p");
    assertThat(read("{to: pictures, html-attribute: data-id}").text().htmlAttribute())
        .isEqualTo("data-id");
    PlaceRule code = read("{to: forms, shortcode: form, attribute: id}");
    assertThat(code.text().shortcode()).isEqualTo("form");
    assertThat(code.isPattern()).isTrue();
    PlaceRule block = read("{to: terms, block: nav, attribute: id, where: {type: category}}");
    assertThat(block.text().where()).isEqualTo(Map.of("type", "category"));
    assertThat(read("{to: pictures, block: image, attribute: id}"))
        .isEqualTo(PlaceRule.ofBlock("pictures", "image", "id"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{path: a} | it lacks 'to'",
        "{to: pages, path: a, css-class: b} | a place is said once",
        "{to: pages, block: image} | 'attribute' belongs to a 'block' or a 'shortcode'",
        "{to: pages, shortcode: form} | 'attribute' belongs to a 'block' or a 'shortcode'",
        "{to: pages, attribute: id} | 'attribute' belongs to a 'block' or a 'shortcode'",
        "{to: pages, where: {a: b}} | 'where' belongs to a 'block'",
        "{to: pages, offer: true} | 'offer' belongs to a 'path'",
        "{to: pages, blok: image} | unknown key 'blok'"
      })
  void whatDoesNotGoTogetherIsSaid(String yaml, String sentence) {
    assertThat(catchThrowableOfType(YamlProblem.class, () -> read(yaml)).sentence())
        .contains(sentence);
  }

  @Test
  void aModelsPlacesAreReadInTheirOrder() throws YamlProblem {
    SiteModel model =
        SiteModel.read(
            """
            model: skerrow
            markup:
              - {to: pictures, css-class: picture-}
              - {to: pages, query: [page]}
            """);
    assertThat(model.texts().markup())
        .extracting(PlaceRule::to)
        .containsExactly("pictures", "pages");
    assertThat(model.texts().linkedFiles()).isEqualTo(List.of());
  }
}
