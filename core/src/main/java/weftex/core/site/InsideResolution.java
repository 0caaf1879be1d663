package weftex.core.site;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Pattern;
import weftex.core.model.ColumnRule;
import weftex.core.model.InsideRule;
import weftex.core.model.PlaceRule;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.core.value.Format;

/** Finds what is inside the values of a table's columns, as far as anybody says it. */
final class InsideResolution {
  /** Types of columns that have room for a value with members. */
  private static final Pattern LONG = Pattern.compile("(?i).*(text|json|clob).*");

  private InsideResolution() {}

  /** What is declared comes first: where it holds, the names of members count for nothing. */
  static List<Inside> of(
      Table table, SiteModel model, Map<String, Table> shapes, List<PlaceRule> members) {
    TableRule rule = model.rule(table.name());
    List<Inside> resolved = declared(table, rule, model.texts().markup(), shapes);
    if (members.isEmpty() || model.role(table) == Role.NOISE) {
      return resolved;
    }
    Condition always = new Condition(Map.of());
    for (int i = 0; i < table.columns().size(); i++) {
      Column column = table.columns().get(i);
      if (isLong(column) && rule.handling().columns().get(column.name()) != ColumnRule.PLAIN) {
        resolved.add(
            new Inside(
                i, always, Optional.empty(), Format.AUTO, members, List.of(), List.of(), true));
      }
    }
    return resolved;
  }

  /** Whether values of a column may have members. */
  private static boolean isLong(Column column) {
    boolean text = column.kind() == ValueKind.TEXT || column.kind() == ValueKind.ANY;
    return text && LONG.matcher(column.type()).matches();
  }

  private static List<Inside> declared(
      Table table, TableRule rule, List<PlaceRule> markup, Map<String, Table> shapes) {
    List<Inside> resolved = new ArrayList<>();
    for (Map.Entry<String, List<InsideRule>> entry :
        new TreeMap<>(rule.contents().inside()).entrySet()) {
      Optional<Integer> column = table.position(entry.getKey());
      for (InsideRule said : column.isEmpty() ? List.<InsideRule>of() : entry.getValue()) {
        if (!isThere(table, said)) {
          continue;
        }
        List<PlaceRule> places = new ArrayList<>(said.refers());
        if (said.markup()) {
          places.addAll(markup);
        }
        places.removeIf(
            place -> !shapes.containsKey(place.to()) || !shapes.get(place.to()).isNumbered());
        Condition when = Condition.of(table, said.when()).orElseThrow();
        Optional<Inside.Sibling> sibling =
            Optional.ofNullable(said.sibling())
                .map(
                    s -> new Inside.Sibling(table.positions(s.same()), positions(table, s.with())));
        resolved.add(
            new Inside(
                column.get(),
                when,
                sibling,
                said.format(),
                places,
                said.sets(),
                said.units(),
                false));
      }
    }
    return resolved;
  }

  /** Whether the table has every column that a rule needs. */
  private static boolean isThere(Table table, InsideRule said) {
    List<String> needed = new ArrayList<>(said.when().keySet());
    if (said.sibling() != null) {
      needed.addAll(said.sibling().same());
      needed.addAll(said.sibling().with().keySet());
    }
    return needed.stream().allMatch(name -> table.position(name).isPresent());
  }

  private static <T> Map<Integer, T> positions(Table table, Map<String, T> byName) {
    Map<Integer, T> byPosition = new TreeMap<>();
    byName.forEach((name, value) -> byPosition.put(table.positions(List.of(name)).get(0), value));
    return byPosition;
  }
}
