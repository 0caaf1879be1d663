package weftex.cli.command;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.model.OwnershipRule;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.store.Refusal;
import weftex.store.copy.Copy;

/**
 * What is each copy's own and differs, such as active extensions: it does not travel by itself, and
 * content of the one copy may need it on the other.
 */
final class OwnSettings {
  private OwnSettings() {}

  /** The names of those that differ; names that the model gives as patterns are not looked for. */
  static List<String> differing(SiteModel model, Copy staging, Copy live) throws Refusal {
    List<String> differing = new ArrayList<>();
    for (Map.Entry<String, TableRule> table : model.tables().entrySet()) {
      for (OwnershipRule.RowRule rule : table.getValue().ownership().rows()) {
        if (rule.role() != Role.OWN || rule.when().size() != 1) {
          continue;
        }
        Map.Entry<String, List<String>> when = rule.when().entrySet().iterator().next();
        List<String> names =
            when.getValue().stream().filter(name -> !name.matches(".*[*?~].*")).toList();
        for (String column : table.getValue().contents().inside().keySet()) {
          if (column.equals(when.getKey())) {
            continue;
          }
          Map<String, String> one =
              staging.lookup().cells(table.getKey(), when.getKey(), names, column);
          Map<String, String> other =
              live.lookup().cells(table.getKey(), when.getKey(), names, column);
          Set<String> both = new TreeSet<>(one.keySet());
          both.addAll(other.keySet());
          both.stream()
              .filter(name -> !Objects.equals(one.get(name), other.get(name)))
              .forEach(differing::add);
        }
      }
    }
    return differing;
  }
}
