package weftex.core.site;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import weftex.core.model.OwnershipRule;
import weftex.core.model.Role;
import weftex.core.row.Glob;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * Whose the rows of a table are, and what of them never travels.
 *
 * @param role whose its rows are
 * @param rows rows that are somebody else's; the first that holds counts
 * @param stays positions of columns whose listed patterns mark a row that never travels
 * @param secret positions of columns that never travel unless asked for
 */
public record Ownership(
    Role role, List<Rows> rows, Map<Integer, Set<String>> stays, Set<Integer> secret) {
  public Ownership {
    rows = List.copyOf(rows);
    stays = Map.copyOf(stays);
    secret = Set.copyOf(secret);
  }

  /** Rows and whose they are. */
  public record Rows(Condition when, Role role, boolean onlyNew) {}

  static Ownership of(Table table, OwnershipRule said, Role role) {
    List<Rows> rows =
        said.rows().stream()
            .flatMap(
                rule ->
                    Condition.of(table, rule.when()).stream()
                        .map(when -> new Rows(when, rule.role(), rule.onlyNew())))
            .toList();
    Map<Integer, Set<String>> stays = new LinkedHashMap<>();
    said.stays()
        .forEach(
            (name, patterns) ->
                table.position(name).ifPresent(i -> stays.put(i, Set.copyOf(patterns))));
    return new Ownership(role, rows, stays, Set.copyOf(table.present(said.secret())));
  }

  /** Whose a row with these values is that both copies knew, as far as the row itself says. */
  public Role roleOfKnown(List<Value> row) {
    return role(rule -> !rule.onlyNew() && rule.when().holdsFor(row));
  }

  /** Whose a row with these values is, as far as the row itself says. */
  public Role role(List<Value> row) {
    return role(rule -> rule.when().holdsFor(row));
  }

  private Role role(Predicate<Rows> holds) {
    return rows.stream().filter(holds).map(Rows::role).findFirst().orElse(role);
  }

  /** Whether a row is marked as one that never travels. */
  boolean stays(List<Value> values) {
    return stays.entrySet().stream()
        .anyMatch(
            rule -> {
              String value = values.get(rule.getKey()).display();
              return rule.getValue().stream().anyMatch(pattern -> Glob.matches(pattern, value));
            });
  }
}
