package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.databind.annotation.JsonDeserialize;
import com.fasterxml.jackson.databind.annotation.JsonPOJOBuilder;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * Where inside a value the numbers of rows stand: at a path, or in running text; neither means the
 * value as a whole. A text that is a list of numbers is a list of references.
 *
 * @param to the table whose number it is, without prefix
 * @param path keys from the outside in, joined by dots; {@code *} is any key, {@code **} any number
 *     of keys
 * @param keys whether the keys at that path are the numbers, not the values
 * @param unset the number that refers to nothing
 * @param offer whether the member is offered along with the row that it refers to: it says where
 *     that is shown
 */
@JsonDeserialize(builder = PlaceRule.Written.class)
public record PlaceRule(
    String to, String path, boolean keys, InText text, String unset, boolean offer) {

  /**
   * Where in running text. Exactly one of {@code block}, {@code cssClass}, {@code query}, {@code
   * shortcode} and {@code htmlAttribute} says it; none of them where it is not in running text.
   *
   * @param block name of a block comment, such as {@code image}; {@code *} for any
   * @param attribute path in the block's attributes, or name of the short code's attribute
   * @param cssClass a word that ends in the number, such as {@code wp-image-}
   * @param query names of parameters in links to the site itself
   * @param shortcode name of a short code in square brackets
   * @param htmlAttribute name of an attribute of an element
   * @param where texts that other attributes of the block have, by name: what a number refers to
   *     may depend on them
   */
  public record InText(
      String block,
      String attribute,
      String cssClass,
      List<String> query,
      String shortcode,
      String htmlAttribute,
      Map<String, String> where) {
    static final InText NONE = new InText(null, null, null, null, null, null, null);

    public InText {
      block = Joined.given(block);
      attribute = Joined.given(attribute);
      cssClass = Joined.given(cssClass);
      query = Joined.given(query);
      shortcode = Joined.given(shortcode);
      htmlAttribute = Joined.given(htmlAttribute);
      where = Joined.given(where);
      if (!where.isEmpty() && block.isEmpty()) {
        throw new IllegalArgumentException("'where' belongs to a 'block'");
      }
      boolean named = !block.isEmpty() || !shortcode.isEmpty();
      if (named == attribute.isEmpty()) {
        throw new IllegalArgumentException(
            "'attribute' belongs to a 'block' or a 'shortcode', and each needs one");
      }
    }

    private List<String> signs() {
      return List.of(block, cssClass, String.join(",", query), shortcode, htmlAttribute);
    }
  }

  public PlaceRule {
    if (to == null) {
      throw new IllegalArgumentException("it lacks 'to', the table that it refers to");
    }
    path = Joined.given(path);
    unset = unset == null ? "0" : unset;
    long said =
        Stream.concat(Stream.of(path), text.signs().stream())
            .filter(sign -> !sign.isEmpty())
            .count();
    if (said > 1) {
      throw new IllegalArgumentException(
          "a place is said once: by 'path', 'block', 'css-class', 'query', 'shortcode' or 'html-attribute'");
    }
    if (offer && path.isEmpty()) {
      throw new IllegalArgumentException("'offer' belongs to a 'path'");
    }
  }

  /** A place as a model file has it: all keys side by side. */
  @JsonPOJOBuilder
  static final class Written {
    @JsonProperty private String to;
    @JsonProperty private String path;
    @JsonProperty private boolean keys;
    @JsonProperty private String block;
    @JsonProperty private String attribute;
    @JsonProperty private String cssClass;
    @JsonProperty private List<String> query;
    @JsonProperty private String shortcode;
    @JsonProperty private String htmlAttribute;
    @JsonProperty private String unset;
    @JsonProperty private boolean offer;
    @JsonProperty private Map<String, String> where;

    PlaceRule build() {
      return new PlaceRule(
          to,
          path,
          keys,
          new InText(block, attribute, cssClass, query, shortcode, htmlAttribute, where),
          unset,
          offer);
    }
  }

  /** Numbers at a path. */
  public static PlaceRule at(String to, String path, boolean keys, String unset) {
    return new PlaceRule(to, path, keys, InText.NONE, unset, false);
  }

  /** Numbers in an attribute of a block. */
  public static PlaceRule ofBlock(String to, String block, String attribute) {
    InText in = new InText(block, attribute, null, null, null, null, null);
    return new PlaceRule(to, null, false, in, null, false);
  }

  /** Whether it is looked for in running text, not at a path. */
  public boolean isPattern() {
    return text.signs().stream().anyMatch(sign -> !sign.isEmpty());
  }
}
