package weftex.core.site;

import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * A table and what it means.
 *
 * @param table its shape
 * @param role whose its rows are
 * @param identity positions of the columns by which numbered rows are the same thing; empty if none
 * @param references what its columns refer to
 * @param stays positions of columns whose listed values mark a row that never travels
 */
public record TableModel(
    Table table,
    Role role,
    List<Integer> identity,
    List<Reference> references,
    Map<Integer, Set<String>> stays) {

  public TableModel {
    identity = List.copyOf(identity);
    references = List.copyOf(references);
    stays = Map.copyOf(stays);
  }

  /** Whether a row with these values belongs to its copy and never travels. */
  public boolean stays(List<Value> values) {
    return stays.entrySet().stream()
        .anyMatch(rule -> rule.getValue().contains(values.get(rule.getKey()).display()));
  }
}
