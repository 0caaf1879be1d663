package weftex.core.plan;

import java.io.IOException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import weftex.core.change.Action;
import weftex.core.change.Alike;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.compare.Comparison;
import weftex.core.model.Role;
import weftex.core.moving.Malformed;
import weftex.core.moving.MovingValues;
import weftex.core.moving.Suspicion;
import weftex.core.row.Value;
import weftex.core.select.Selection;
import weftex.core.site.TableModel;

/** The chosen changes in the order of applying, built one at a time. */
public final class Plan {
  private final Planner planner;
  private final Comparison comparison;
  private final Schema schema;
  private final List<Planned> ordered;
  private final MovingValues moving;
  private final ChangeBuilder builder;

  Plan(
      Planner planner,
      Comparison comparison,
      Schema schema,
      List<Planned> ordered,
      MovingValues moving,
      Selection selection) {
    this.builder = new ChangeBuilder(comparison, planner, schema, selection);
    this.moving = moving;
    this.planner = planner;
    this.comparison = comparison;
    this.schema = schema;
    this.ordered = ordered;
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
    return planner.leftOut();
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
            item.map(thing -> Chooser.called(thing, planned.whose())).orElse(nameOf(planned)),
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
    return !planned.objections().isEmpty()
        || planned.needs().keySet().stream().anyMatch(needed -> !needed.chosen);
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
      sink.accept(builder.build(planned));
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
}
