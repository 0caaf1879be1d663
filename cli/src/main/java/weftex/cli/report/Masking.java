package weftex.cli.report;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.core.row.Value;

/**
 * Takes personal data out of changes before anybody writes them down: values of columns that the
 * site model calls personal, and names of things that are made of them, which become numbers.
 */
public final class Masking {
  private static final Value WAS = Value.text("(personal)");
  private static final Value IS = Value.text("(personal, edited)");

  private final SiteModel model;
  private final Set<String> kinds;
  private final Map<Item, String> numbers = new LinkedHashMap<>();
  private int hidden;

  public Masking(SiteModel model) {
    this.model = model;
    this.kinds =
        model.tables().values().stream()
            .filter(Masking::isNamedByPersons)
            .map(rule -> rule.item().kind())
            .collect(Collectors.toSet());
  }

  private static boolean isNamedByPersons(TableRule rule) {
    return rule.item() != null
        && rule.item().kind() != null
        && rule.personal().known().stream()
            .anyMatch(one -> rule.item().name().contains(one.column()));
  }

  /** How many values were left out. */
  public int hidden() {
    return hidden;
  }

  /** The change without what is personal in it. */
  public RowChange masked(RowChange change) {
    Map<String, Value> row = new LinkedHashMap<>(change.key());
    row.putAll(change.values());
    Set<String> columns =
        model.rule(change.table()).personal().known().stream()
            .filter(rule -> rule.holdsFor(row))
            .map(rule -> rule.column())
            .collect(Collectors.toSet());
    boolean isNamed = change.item().filter(item -> kinds.contains(item.kind())).isPresent();
    if (columns.isEmpty() && !isNamed) {
      return change;
    }
    List<Conflict> conflicts = new ArrayList<>();
    change.conflicts().forEach(conflict -> conflicts.add(masked(conflict, columns)));
    return new RowChange(
        isNamed ? named(change.head()) : change.head(),
        without(change.before(), columns, WAS),
        without(change.after(), columns, change.action() == Action.UPDATE ? IS : WAS),
        without(change.drafted(), columns, WAS),
        conflicts);
  }

  private Head named(Head head) {
    Item item = head.item().orElseThrow();
    String number =
        numbers.computeIfAbsent(
            new Item(item.kind(), item.name(), ""), unused -> "no. " + (numbers.size() + 1));
    return new Head(
        head.id(),
        head.action(),
        head.table(),
        head.key(),
        head.fresh(),
        head.renumbered(),
        head.ties(),
        Optional.of(new Item(item.kind(), number, item.part())),
        head.trace());
  }

  private Map<String, Value> without(
      Map<String, Value> values, Set<String> columns, Value instead) {
    Map<String, Value> masked = new LinkedHashMap<>(values);
    masked.replaceAll(
        (column, value) -> {
          boolean shown = !columns.contains(column) || value.isNull() || isEmpty(value);
          hidden += shown ? 0 : 1;
          return shown ? value : instead;
        });
    return masked;
  }

  private static boolean isEmpty(Value value) {
    return value instanceof Value.Text text && text.utf8().length == 0;
  }

  private Conflict masked(Conflict conflict, Set<String> columns) {
    if (conflict.columns().stream().noneMatch(columns::contains)) {
      return conflict;
    }
    return new Conflict(
        conflict.kind(),
        conflict.binding(),
        conflict.columns(),
        without(conflict.base(), columns, WAS),
        without(conflict.source(), columns, IS),
        without(conflict.target(), columns, IS),
        without(conflict.otherwise(), columns, IS),
        List.of(),
        "it is about " + String.join(", ", conflict.columns()) + ", which is personal");
  }
}
