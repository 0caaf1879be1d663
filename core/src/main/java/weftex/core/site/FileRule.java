package weftex.core.site;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;

/**
 * A column that names a file of the copy.
 *
 * @param column the column that holds the file's path
 * @param when columns and the values that tell the rows; all rows if there are none
 * @param under the folder that the path begins in, from the copy's folder
 */
public record FileRule(
    @JsonProperty(required = true) String column, Map<String, List<String>> when, String under) {
  public FileRule {
    when = when == null ? Map.of() : Map.copyOf(when);
    under = under == null || under.isEmpty() || under.endsWith("/") ? under : under + "/";
    under = under == null ? "" : under;
  }

  /**
   * The same, resolved.
   *
   * @param column its position
   */
  public record Resolved(Condition when, int column, String under) {}
}
