package weftex.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.model.PlaceRule;
import weftex.core.model.SiteModel;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.value.Format;
import weftex.core.value.Weaver;

/** The rules are those of the built-in model, as far as they are about running text. */
class NumberPlacesTest {
  private static final Set<String> HOSTS = Set.of("skerrow.example");

  private static List<PlaceRule> markup() {
    try {
      return SiteModel.readBuiltIn("wordpress").texts().markup();
    } catch (weftex.core.yaml.YamlProblem e) {
      throw new IllegalStateException(e);
    }
  }

  private static PlaceRule path(String path, boolean keys) {
    return PlaceRule.at("posts", path, keys, null);
  }

  /** Posts 12 and 9 become 1012 and 1009, term 12 becomes 77. */
  private static String rewritten(List<PlaceRule> rules, String text) {
    Map<String, String> numbers = Map.of("posts 12", "1012", "posts 9", "1009", "terms 12", "77");
    return new NumberPlaces(rules, Format.AUTO, HOSTS, false)
        .rewrite(
            text.getBytes(StandardCharsets.UTF_8),
            (table, number) ->
                Optional.ofNullable(numbers.get(table + " " + number))
                    .map(other -> Weaver.of(other.getBytes(StandardCharsets.US_ASCII))))
        .map(woven -> new String(woven.bytes(), StandardCharsets.UTF_8))
        .orElse(text);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          <!-- wp:image {"id":12,"width":12} --> | <!-- wp:image {"id":1012,"width":12} -->
          <!-- wp:gallery {"ids":[9, 5,12]} /-->  | <!-- wp:gallery {"ids":[1009, 5,1012]} /-->
          <!-- wp:block {"ref":9} /-->            | <!-- wp:block {"ref":1009} /-->
          <!-- wp:media-text {"mediaId":12,"n":{"a":"é"}} --> | <!-- wp:media-text {"mediaId":1012,"n":{"a":"é"}} -->
          <!-- wp:media-text {"mediaId":12,"mediaLink":"https://skerrow.example/?attachment_id=9"} --> | <!-- wp:media-text {"mediaId":1012,"mediaLink":"https://skerrow.example/?attachment_id=1009"} -->
          <!-- wp:media-text {"mediaId":5,"mediaLink":"https://skerrow.example/?attachment_id=9\u0026a=1"} --> | <!-- wp:media-text {"mediaId":5,"mediaLink":"https://skerrow.example/?attachment_id=1009\u0026a=1"} -->
          <!-- wp:media-text {"mediaId":12,"mediaLink":"https://else.example/?attachment_id=9"} --> | <!-- wp:media-text {"mediaId":1012,"mediaLink":"https://else.example/?attachment_id=9"} -->
          <!-- wp:navigation-link {"id":12,"url":"https://skerrow.example/?page_id=12","kind":"post-type"} /--> | <!-- wp:navigation-link {"id":1012,"url":"https://skerrow.example/?page_id=1012","kind":"post-type"} /-->
          <!-- wp:navigation-link {"id":12,"url":"https://skerrow.example/?cat=12","kind":"taxonomy"} /--> | <!-- wp:navigation-link {"id":77,"url":"https://skerrow.example/?cat=77","kind":"taxonomy"} /-->
          <!-- wp:navigation-link {"id":12,"kind":"custom"} /--> | <!-- wp:navigation-link {"id":12,"kind":"custom"} /-->
          <!-- wp:query {"query":{"taxQuery":{"category":[12]}}} --> | <!-- wp:query {"query":{"taxQuery":{"category":[77]}}} -->
          <img class="wp-image-12 wide" width="12"> | <img class="wp-image-1012 wide" width="12">
          "<img class=\\"a wp-image-12\\">"       | "<img class=\\"a wp-image-1012\\">"
          [gallery columns="2" ids="9,12, 5"]     | [gallery columns="2" ids="1009,1012, 5"]
          [caption id="attachment_12" width="12"] | [caption id="attachment_1012" width="12"]
          <li data-id="9">                        | <li data-id="1009">
          <a href="/?p=12">                       | <a href="/?p=1012">
          <a href="https://skerrow.example/?page_id=9#a"> | <a href="https://skerrow.example/?page_id=1009#a">
          <a href="https:\\/\\/skerrow.example\\/?page_id=9"> | <a href="https:\\/\\/skerrow.example\\/?page_id=1009">
          <a href="?x=1&amp;attachment_id=12">    | <a href="?x=1&amp;attachment_id=1012">
          """)
  void declaredPlacesInMarkupFollow(String text, String expected) {
    assertThat(rewritten(markup(), text)).isEqualTo(expected);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "<!-- wp:image {\"width\":12,\"height\":9} -->",
        "<img class=\"wp-image-123 swp-image-12 wp-image-12-wide\">",
        "<a href=\"https://elsewhere.example/?p=12\">",
        "<a href=\"//elsewhere.example/?p=12\">",
        "<a href=\"/?shop=12&p=12a\">",
        "twelve is 12, and (12) is not 9",
        "[galleryx ids=\"12\"]",
        "<!-- wp:image {\"id\":12 -->",
      })
  void numbersThatOnlyLookAlikeStay(String text) {
    assertThat(rewritten(markup(), text)).isEqualTo(text);
  }

  @Test
  void pathsReachIntoSettingsAndLengthsFollow() {
    assertThat(
            rewritten(
                List.of(path("menus.*", false), path("logo", false)),
                "a:3:{s:5:\"menus\";a:2:{s:3:\"top\";i:12;s:3:\"end\";i:7;}s:4:\"logo\";s:1:\"9\";s:5:\"width\";i:12;}"))
        .isEqualTo(
            "a:3:{s:5:\"menus\";a:2:{s:3:\"top\";i:1012;s:3:\"end\";i:7;}s:4:\"logo\";s:4:\"1009\";s:5:\"width\";i:12;}");
  }

  @Test
  void keysCanBeReferences() {
    assertThat(
            rewritten(
                List.of(path("", true), path("*.*", false)),
                "a:2:{i:12;a:1:{i:0;i:9;}s:1:\"9\";a:0:{}}"))
        .isEqualTo("a:2:{i:1012;a:1:{i:0;i:1009;}s:4:\"1009\";a:0:{}}");
  }

  @Test
  void anyNumberOfKeysMatchesTwoStars() {
    assertThat(rewritten(List.of(path("**.image", false)), "{\"a\":[{\"image\":12}],\"image\":9}"))
        .isEqualTo("{\"a\":[{\"image\":1012}],\"image\":1009}");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          12        | 1012
          9,12,5    | 1009,1012,5
          9 12      | 1009 1012
          0         | 0
          12px      | 12px
          """)
  void aWholeValueIsANumberOrAListOfThem(String text, String expected) {
    assertThat(rewritten(List.of(path("", false)), text)).isEqualTo(expected);
  }

  @Test
  void aNumberThatIsNotKnownYetStaysOpenWithItsLength() {
    Value value =
        new NumberPlaces(List.of(path("*", false)), Format.AUTO, HOSTS, false)
            .rewrite(
                "a:1:{i:0;s:2:\"12\";}".getBytes(StandardCharsets.UTF_8),
                (table, number) -> Optional.of(new Weaver().add(new RowName(table, number))))
            .orElseThrow()
            .toValue(Value.text(""));
    assertThat(value).isInstanceOf(Value.Pending.class);
    assertThat(((Value.Pending) value).settled(row -> new BigInteger("1000")).display())
        .isEqualTo("a:1:{i:0;s:4:\"1000\";}");
    assertThat(value.display()).isEqualTo("a:1:{i:0;s:…:\"‹posts#12›\";}");
  }

  @Test
  void aNumberInSerialisedInJsonStaysOpenInItsQuotes() {
    Value value =
        new NumberPlaces(List.of(path("a.*", false)), Format.AUTO, HOSTS, false)
            .rewrite(
                "{\"a\":\"a:1:{i:0;s:2:\\\"12\\\";}\"}".getBytes(StandardCharsets.UTF_8),
                (table, number) -> Optional.of(new Weaver().add(new RowName(table, number))))
            .orElseThrow()
            .toValue(Value.text(""));
    assertThat(((Value.Pending) value).settled(row -> BigInteger.valueOf(777)).display())
        .isEqualTo("{\"a\":\"a:1:{i:0;s:3:\\\"777\\\";}\"}");
  }
}
