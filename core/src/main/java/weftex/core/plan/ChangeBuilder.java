package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.compare.Comparison;
import weftex.core.match.Newcomer;
import weftex.core.match.Sides;
import weftex.core.merge.RowMerger;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.select.Selection;
import weftex.core.site.TableModel;

/** Builds the changes of a plan, with their values, as they are drafted. */
final class ChangeBuilder {
  private final Comparison comparison;
  private final Planner planner;
  private final Plan.Schema schema;
  private final Selection selection;

  ChangeBuilder(Comparison comparison, Planner planner, Plan.Schema schema, Selection selection) {
    this.comparison = comparison;
    this.planner = planner;
    this.schema = schema;
    this.selection = selection;
  }

  /** The change that becomes of it. */
  RowChange build(Planned planned) throws IOException {
    TableModel model = comparison.tables().get(planned.table);
    Table table = model.table();
    Sides sides = planner.sides(planned);
    List<Value> seen = sides.target().isPresent() ? sides.target().values() : List.of();
    // A row that comes back has the key that it had on the target.
    List<Value> own =
        sides.base().isPresent() || planner.isGone(planned) ? sides.source() : sides.rawSource();
    List<Value> keyed = seen.isEmpty() ? own : seen;
    List<Integer> key = table.hasKey() ? table.key() : List.of();
    int behind = schema.made().size();
    Optional<RowMerger.Merged> merged = merged(planned, sides);
    Optional<Newcomer.Numbered> numbered = planner.numbered(planned);
    Head head =
        new Head(
            planned.id + behind,
            planned.action,
            table.name(),
            named(table, key, keyed),
            numbered.map(Newcomer.Numbered::name),
            numbered.map(Newcomer.Numbered::renumbered).orElse(false),
            ties(planned, table, behind),
            planner.item(planned, sides),
            planner.trace(planned, sides));
    Map<String, Value> after =
        planned.action == Action.ADD ? added(model, sides) : taken(table, merged);
    List<Conflict> conflicts = conflicts(planned, table, sides, merged);
    Map<String, Value> drafted = drafted(model, sides, merged, after.keySet());
    // What a conflict has already is not carried twice: it may be long.
    conflicts.stream()
        .filter(conflict -> conflict.kind().isClash())
        .forEach(conflict -> drafted.entrySet().removeAll(conflict.source().entrySet()));
    planner
        .renamed(planned)
        .ifPresent(
            column ->
                drafted.put(table.columns().get(column).name(), sides.rawSource().get(column)));
    return new RowChange(
        head, named(table, compared(planned, model, seen), seen), after, drafted, conflicts);
  }

  private static Ties ties(Planned planned, Table table, int behind) {
    return new Ties(
        planned.offered && !planned.chosen,
        planned.with.filter(with -> with.chosen).map(with -> with.id + behind),
        List.of(),
        planned.alongWith.map(needing -> needing.id + behind),
        needs(planned, table, behind),
        planned.hangers());
  }

  /**
   * The source's own values of columns that both copies changed.
   *
   * @param written the columns that get a value
   */
  private static Map<String, Value> drafted(
      TableModel model, Sides sides, Optional<RowMerger.Merged> merged, Set<String> written) {
    Table table = model.table();
    Map<String, Value> drafted = new LinkedHashMap<>();
    if (merged.isPresent() && sides.base().isPresent()) {
      drafted.putAll(AlikeCells.of(model, sides, merged.get()));
    }
    for (int i = 0; merged.isPresent() && i < table.columns().size(); i++) {
      String column = table.columns().get(i).name();
      boolean own =
          merged.get().clashing().contains(i)
              || merged.get().taken().containsKey(i)
                  && !merged.get().taken().get(i).equals(sides.source().get(i));
      // Of a row that both copies added there is no base but what this merge settles.
      if (own || sides.base() == Row.ABSENT && !written.contains(column)) {
        // Its number is the source's own: by that the row is known the next time.
        drafted.put(column, (i == table.number() ? sides.rawSource() : sides.source()).get(i));
      }
    }
    return drafted;
  }

  /**
   * The columns in which a row must be as it was seen; what a copy counts for itself may move.
   *
   * @param row as it was seen; empty for one that is not there
   */
  private List<Integer> compared(Planned planned, TableModel model, List<Value> row) {
    Set<String> absent = schema.absent().getOrDefault(model.table().name(), Set.of());
    return IntStream.range(0, model.table().columns().size())
        .filter(i -> !absent.contains(model.table().columns().get(i).name()))
        .filter(i -> planned.action == Action.REMOVE || row.isEmpty() || !model.isOwn(i, row))
        .boxed()
        .toList();
  }

  /** An added row, without what never travels. */
  private Map<String, Value> added(TableModel model, Sides sides) {
    Map<String, Value> added =
        named(model.table(), all(sides.source()), new ArrayList<>(sides.source()));
    for (int i : model.ownership().secret()) {
      Column column = model.table().columns().get(i);
      if (!selection.asksFor(model.table().name(), column.name())) {
        added.put(column.name(), column.nullable() ? Value.NULL : Value.text(""));
      }
    }
    return added;
  }

  private Optional<RowMerger.Merged> merged(Planned planned, Sides sides) {
    return planned.action == Action.UPDATE
        ? Optional.of(planner.merged(planned.table, sides))
        : Optional.empty();
  }

  private static Map<String, Value> taken(Table table, Optional<RowMerger.Merged> merged) {
    Map<String, Value> taken = new LinkedHashMap<>();
    merged.ifPresent(
        m -> m.taken().forEach((i, value) -> taken.put(table.columns().get(i).name(), value)));
    return taken;
  }

  private static List<Ties.Need> needs(Planned planned, Table table, int behind) {
    List<Ties.Need> needs = new ArrayList<>();
    for (Map.Entry<Planned, Planned.Need> entry : planned.needs().entrySet()) {
      Planned.Need need = entry.getValue();
      needs.add(
          new Ties.Need(entry.getKey().id + behind, need.orElse(), table.names(need.columns())));
    }
    return needs;
  }

  private static List<Conflict> conflicts(
      Planned planned, Table table, Sides sides, Optional<RowMerger.Merged> merged) {
    List<Value> ifSource = new ArrayList<>(sides.source());
    Map<String, Value> ifTarget = new LinkedHashMap<>();
    merged.ifPresent(
        m ->
            m.partly()
                .forEach(
                    (i, partly) -> {
                      ifSource.set(i, partly.ifSource());
                      if (!partly.ifTarget().equals(sides.target().values().get(i))) {
                        ifTarget.put(table.columns().get(i).name(), partly.ifTarget());
                      }
                    }));
    List<Conflict> conflicts = new ArrayList<>();
    for (Planned.Objection objection : planned.objections()) {
      Collection<Integer> columns =
          objection.columns().isEmpty()
              ? all(sides.target().isPresent() ? sides.target().values() : sides.source())
              : objection.columns();
      conflicts.add(
          new Conflict(
              objection.kind(),
              objection.binding(),
              table.names(List.copyOf(objection.columns())),
              named(table, columns, sides.base().isPresent() ? sides.base().values() : List.of()),
              named(table, columns, ifSource),
              named(
                  table, columns, sides.target().isPresent() ? sides.target().values() : List.of()),
              objection.kind().isClash() ? ifTarget : Map.of(),
              places(objection, merged),
              objection.reason()));
    }
    return conflicts;
  }

  /** Where the values clash inside, if that is all in which the columns do. */
  private static List<String> places(
      Planned.Objection objection, Optional<RowMerger.Merged> merged) {
    return merged
        .filter(m -> objection.kind().isClash() && m.partly().keySet().containsAll(m.clashing()))
        .map(m -> m.partly().values().stream().flatMap(p -> p.clashes().stream()).toList())
        .orElse(List.of());
  }

  private static List<Integer> all(List<Value> values) {
    return IntStream.range(0, values.size()).boxed().toList();
  }

  private static Map<String, Value> named(
      Table table, Collection<Integer> positions, List<Value> values) {
    Map<String, Value> named = new LinkedHashMap<>();
    for (int i : values.isEmpty() ? List.<Integer>of() : positions) {
      named.put(table.columns().get(i).name(), values.get(i));
    }
    return named;
  }
}
