package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import weftex.core.change.Action;
import weftex.core.change.Alike;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.change.Ties;
import weftex.core.compare.Comparison;
import weftex.core.merge.RowMerger;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Role;
import weftex.core.site.TableModel;

/** The chosen changes in the order of applying, built one at a time. */
public final class Plan {
  private final Planner planner;
  private final Comparison comparison;
  private final Schema schema;
  private final List<Planned> ordered;
  private final MovingValues moving;
  private final List<LeftOut> leftOut;
  private final Selection selection;

  Plan(
      Planner planner,
      Comparison comparison,
      Schema schema,
      List<Planned> ordered,
      MovingValues moving,
      List<LeftOut> leftOut,
      Selection selection) {
    this.selection = selection;
    this.moving = moving;
    this.planner = planner;
    this.comparison = comparison;
    this.schema = schema;
    this.ordered = ordered;
    this.leftOut = leftOut;
  }

  /**
   * What is made before the rows.
   *
   * @param made numbered from 1, in the order of making
   * @param absent new columns that are not made, by table
   */
  record Schema(List<SchemaChange> made, Map<String, Set<String>> absent) {}

  /** New tables and columns, numbered from 1, in the order of making; the rows come after them. */
  public List<SchemaChange> schema() {
    return schema.made();
  }

  /** The columns of a table that the target will not have when this is applied. */
  public Set<String> absent(String table) {
    return schema.absent().getOrDefault(table, Set.of());
  }

  /** Changes that stay out because their rows are live's own or noise. */
  public List<LeftOut> leftOut() {
    return leftOut;
  }

  /**
   * How many chosen changes bring rows of the source that the model calls live's or each copy's
   * own, by what they are called.
   */
  public Map<String, Long> brought() throws IOException {
    Map<String, Long> brought = new TreeMap<>();
    for (Planned planned : ordered) {
      boolean notContent = planned.whose() == Role.LIVE || planned.whose() == Role.OWN;
      if (planned.chosen && notContent && planned.action != Action.REMOVE) {
        Optional<Item> item = planner.item(planned, planner.sides(planned));
        brought.merge(
            item.map(thing -> Planner.called(thing, planned.whose())).orElse(nameOf(planned)),
            1L,
            Long::sum);
      }
    }
    return brought;
  }

  /** Takes the changes one after the other. */
  public interface ChangeSink {
    void accept(RowChange change) throws IOException;
  }

  /** Numbers in moving values that may be references which nobody declared; at most a hundred. */
  public List<Suspicion> suspicions() {
    return moving.suspicions();
  }

  /**
   * Numbers in moving values that follow a row since the name of their member says what they refer
   * to; at most a hundred.
   */
  public List<Suspicion> followed() {
    return moving.followed();
  }

  /**
   * Whether a row that differs is chosen.
   *
   * @param table its table's position in the comparison
   * @param key its key's values on the source
   */
  public boolean moves(int table, List<Value> key) {
    return moving.moves(table, key);
  }

  /** Moving values that claim a format and are not well-formed; at most a hundred. */
  public List<Malformed> malformed() {
    return moving.malformed();
  }

  /** How many changes of rows. */
  public int size() {
    return ordered.size();
  }

  /**
   * How many chosen changes of a table have a conflict of their own, or need one that is only
   * offered.
   */
  public long conflicts(String table) {
    return ordered.stream()
        .filter(planned -> planned.chosen && nameOf(planned).equals(table))
        .filter(Plan::isContested)
        .count();
  }

  /** How many chosen changes do this. */
  public long count(Action action) {
    return ordered.stream().filter(planned -> planned.chosen && planned.action == action).count();
  }

  /** How many chosen changes need a decision. */
  public long conflicts() {
    return ordered.stream().filter(planned -> planned.chosen && isContested(planned)).count();
  }

  /** How many changes are offered. */
  public long offered() {
    return ordered.stream().filter(planned -> !planned.chosen).count();
  }

  /** The names of the tables that are changed, each once. */
  public List<String> tables() {
    return Stream.concat(
            schema.made().stream().map(SchemaChange::table), ordered.stream().map(this::nameOf))
        .distinct()
        .toList();
  }

  private static boolean isContested(Planned planned) {
    return !planned.objections.isEmpty()
        || planned.needs.keySet().stream().anyMatch(needed -> !needed.chosen);
  }

  /** The things that chosen changes are about, each once. */
  public Set<Item> things() throws IOException {
    Set<Item> things = new LinkedHashSet<>();
    schema.made().forEach(change -> things.add(change.item()));
    for (Planned planned : ordered) {
      if (planned.chosen) {
        planner
            .item(planned, planner.sides(planned))
            .ifPresent(item -> things.add(new Item(item.kind(), item.name(), "")));
      }
    }
    return things;
  }

  /** The thing that a row of the source is or belongs to; empty if the model names none. */
  public Optional<Item> item(TableModel model, List<Value> ofSource) throws IOException {
    return planner.item(model, ofSource);
  }

  /** Builds every change of a row, in the order of applying. */
  public void forEach(ChangeSink sink) throws IOException {
    for (Planned planned : ordered) {
      sink.accept(build(planned));
    }
  }

  private String nameOf(Planned planned) {
    return comparison.tables().get(planned.table).table().name();
  }

  /** Takes the rows of which nothing needs to be made, as both copies have them alike already. */
  public interface AlikeSink {
    void accept(Alike row) throws IOException;
  }

  /** Builds every row that the source changed and that the target has just so. */
  public void forEachAlike(AlikeSink sink) throws IOException {
    planner.eachAlike(sink::accept);
  }

  private RowChange build(Planned planned) throws IOException {
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
        planned.hangers);
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
    Set<String> absent = absent(model.table().name());
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
    for (int i : model.secret()) {
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
    for (Map.Entry<Planned, Planned.Need> entry : planned.needs.entrySet()) {
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
    for (Planned.Objection objection : planned.objections) {
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
