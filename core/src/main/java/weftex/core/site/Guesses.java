package weftex.core.site;

import java.util.List;
import java.util.Map;
import weftex.core.model.PlaceRule;
import weftex.core.model.TableRule;

/**
 * References that no model declares, found by evidence.
 *
 * @param columns by table and column
 * @param members places inside values whose names say what they refer to, in any table
 */
public record Guesses(
    Map<String, Map<String, TableRule.ReferenceRule>> columns, List<PlaceRule> members) {
  public static final Guesses NONE = new Guesses(Map.of(), List.of());

  public Guesses {
    columns = Map.copyOf(columns);
    members = List.copyOf(members);
  }
}
