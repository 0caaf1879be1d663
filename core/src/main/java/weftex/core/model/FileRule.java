package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;

/**
 * A column that names files of the copy.
 *
 * @param column the column that holds the file's path, or a structured value with such members
 * @param when columns and the values that tell the rows; all rows if there are none
 * @param under the folder that the path begins in, from the copy's folder
 * @param path members of the value that are paths, as keys from the outside in; the whole value if
 *     nothing is said
 * @param beside a member of the value that names a file, in whose folder those at {@code path} are;
 *     below {@code under} if nothing is said
 */
public record FileRule(
    @JsonProperty(required = true) String column,
    Map<String, List<String>> when,
    String under,
    String path,
    String beside) {
  public FileRule {
    when = when == null ? Map.of() : Map.copyOf(when);
    under = under == null || under.isEmpty() || under.endsWith("/") ? under : under + "/";
    under = under == null ? "" : under;
    path = path == null ? "" : path;
    beside = beside == null ? "" : beside;
    if (path.isEmpty() && !beside.isEmpty()) {
      throw new IllegalArgumentException("'beside' belongs to a 'path'");
    }
  }
}
