package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;

/**
 * What the rows of a table are parts of.
 *
 * @param of the column that refers to the row of another table; empty for none
 * @param through rows that are a part of something by a row of a table of links; null for none
 * @param word what such a part is called, such as {@code detail}
 */
public record PartRule(String of, Through through, String word) {
  static final PartRule NONE = new PartRule(null, null, null);

  public PartRule {
    of = Joined.given(of);
    word = Joined.given(word);
  }

  /**
   * Rows that are a part of something by a row of a table of links.
   *
   * @param when columns and the values that tell these rows
   * @param table the table of links
   * @param from its column that holds the part's key
   * @param to its column that refers to what it is a part of
   * @param word what such a part is called, such as {@code entry}
   */
  public record Through(
      @JsonProperty(required = true) Map<String, List<String>> when,
      @JsonProperty(required = true) String table,
      @JsonProperty(required = true) String from,
      @JsonProperty(required = true) String to,
      @JsonProperty(required = true) String word) {
    public Through {
      when = Map.copyOf(when);
    }
  }

  PartRule extending(PartRule more) {
    return new PartRule(
        more.of.isEmpty() ? of : more.of,
        more.through == null ? through : more.through,
        more.word.isEmpty() ? word : more.word);
  }
}
