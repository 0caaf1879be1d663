package weftex.cli.config;

import com.fasterxml.jackson.annotation.JsonCreator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.model.PersonalRule;
import weftex.core.model.SiteModel;

/**
 * What weftex.yaml says of personal data whose values on staging are made up: {@code personal} for
 * all that the site model calls so, or columns by table.
 *
 * @param tables columns by table; empty for all that is personal
 */
record MaskedEntry(Map<String, List<String>> tables) {
  private static final String PERSONAL = "personal";

  /** All that is personal. */
  @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
  static MaskedEntry of(String word) {
    if (!word.equals(PERSONAL)) {
      throw new IllegalArgumentException(
          "'masked' is '" + word + "'; write 'masked: personal', or columns by table");
    }
    return new MaskedEntry(Map.of());
  }

  /** Columns by table. */
  @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
  static MaskedEntry of(Map<String, List<String>> tables) {
    return new MaskedEntry(Map.copyOf(tables));
  }

  /** The columns in a site's own tables. */
  Map<String, List<PersonalRule>> rules(SiteModel model) {
    Map<String, List<PersonalRule>> rules = new LinkedHashMap<>();
    if (tables.isEmpty()) {
      model
          .tables()
          .forEach(
              (table, rule) -> {
                if (!rule.personal().known().isEmpty()) {
                  rules.put(table, rule.personal().known());
                }
              });
    }
    tables.forEach(
        (table, columns) -> rules.put(table, columns.stream().map(PersonalRule::of).toList()));
    return rules;
  }
}
