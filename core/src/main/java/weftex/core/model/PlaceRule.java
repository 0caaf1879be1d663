package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;

/**
 * Where inside a value the numbers of rows stand. Exactly one of {@code path}, {@code block},
 * {@code cssClass}, {@code query}, {@code shortcode} and {@code htmlAttribute} says where; none of
 * them means the value as a whole. A text that is a list of numbers is a list of references.
 *
 * @param to the table whose number it is, without prefix
 * @param path keys from the outside in, joined by dots; {@code *} is any key, {@code **} any number
 *     of keys
 * @param keys whether the keys at that path are the numbers, not the values
 * @param block name of a block comment, such as {@code image}; {@code *} for any
 * @param attribute path in the block's attributes, or name of the short code's attribute
 * @param cssClass a word that ends in the number, such as {@code wp-image-}
 * @param query names of parameters in links to the site itself
 * @param shortcode name of a short code in square brackets
 * @param htmlAttribute name of an attribute of an element
 * @param unset the number that refers to nothing
 * @param offer whether the member is offered along with the row that it refers to: it says where
 *     that is shown
 * @param where texts that other attributes of the block have, by name: what a number refers to may
 *     depend on them
 */
public record PlaceRule(
    @JsonProperty(required = true) String to,
    String path,
    boolean keys,
    String block,
    String attribute,
    String cssClass,
    List<String> query,
    String shortcode,
    String htmlAttribute,
    String unset,
    boolean offer,
    Map<String, String> where) {

  public PlaceRule {
    path = orEmpty(path);
    block = orEmpty(block);
    attribute = orEmpty(attribute);
    cssClass = orEmpty(cssClass);
    query = query == null ? List.of() : List.copyOf(query);
    shortcode = orEmpty(shortcode);
    htmlAttribute = orEmpty(htmlAttribute);
    unset = unset == null ? "0" : unset;
    where = where == null ? Map.of() : Map.copyOf(where);
    long said =
        List.of(path, block, cssClass, String.join(",", query), shortcode, htmlAttribute).stream()
            .filter(text -> !text.isEmpty())
            .count();
    if (said > 1) {
      throw new IllegalArgumentException(
          "a place is said once: by 'path', 'block', 'css-class', 'query', 'shortcode' or 'html-attribute'");
    }
    if (!where.isEmpty() && block.isEmpty()) {
      throw new IllegalArgumentException("'where' belongs to a 'block'");
    }
    if (offer && path.isEmpty()) {
      throw new IllegalArgumentException("'offer' belongs to a 'path'");
    }
    boolean named = !block.isEmpty() || !shortcode.isEmpty();
    if (named == attribute.isEmpty()) {
      throw new IllegalArgumentException(
          "'attribute' belongs to a 'block' or a 'shortcode', and each needs one");
    }
  }

  /** Numbers at a path. */
  public static PlaceRule at(String to, String path, boolean keys, String unset) {
    return new PlaceRule(to, path, keys, "", "", "", List.of(), "", "", unset, false, Map.of());
  }

  /** Numbers in an attribute of a block. */
  public static PlaceRule ofBlock(String to, String block, String attribute) {
    return new PlaceRule(
        to, "", false, block, attribute, "", List.of(), "", "", "0", false, Map.of());
  }

  private static String orEmpty(String text) {
    return text == null ? "" : text;
  }

  /** Whether it is looked for in running text, not at a path. */
  public boolean isPattern() {
    return !block.isEmpty()
        || !cssClass.isEmpty()
        || !query.isEmpty()
        || !shortcode.isEmpty()
        || !htmlAttribute.isEmpty();
  }
}
