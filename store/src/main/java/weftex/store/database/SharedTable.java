package weftex.store.database;

import java.util.List;

/**
 * A table that both copies have, as far as they agree on it.
 *
 * @param source how the source's rows are read
 * @param target how the target's rows are read: the same columns in the same order
 * @param onlyInSource columns that the target lacks
 * @param onlyInTarget columns that the source lacks
 * @param differing columns whose declarations differ, in words
 */
public record SharedTable(
    Layout source,
    Layout target,
    List<String> onlyInSource,
    List<String> onlyInTarget,
    List<String> differing) {
  public SharedTable {
    onlyInSource = List.copyOf(onlyInSource);
    onlyInTarget = List.copyOf(onlyInTarget);
    differing = List.copyOf(differing);
  }

  public String name() {
    return target.table().name();
  }
}
