package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;
import weftex.core.row.Glob;
import weftex.core.row.Value;

/**
 * A column of personal data; in a model file its name may stand alone.
 *
 * @param column the column
 * @param when columns and the values that tell the rows; all rows if there are none
 */
public record PersonalRule(
    @JsonProperty(required = true) String column, Map<String, List<String>> when) {
  @JsonCreator(mode = JsonCreator.Mode.PROPERTIES)
  public PersonalRule {
    when = when == null ? Map.of() : Map.copyOf(when);
  }

  /** A column in all rows. */
  @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
  public static PersonalRule of(String column) {
    return new PersonalRule(column, Map.of());
  }

  /**
   * Whether it holds for a row.
   *
   * @param row what is known of it, by column; what is not may be anything
   */
  public boolean holdsFor(Map<String, Value> row) {
    return when.entrySet().stream()
        .allMatch(
            said -> {
              Value value = row.get(said.getKey());
              return value == null
                  || said.getValue().stream().anyMatch(text -> Glob.of(text).matches(value));
            });
  }
}
