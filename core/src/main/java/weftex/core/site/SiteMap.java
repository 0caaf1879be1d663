package weftex.core.site;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.model.FollowRules;
import weftex.core.model.Judgement;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.row.Table;

/**
 * Every table of a site with its meaning: the model's words where it has any, else what the schema
 * shows.
 */
public final class SiteMap {
  private final Map<String, TableModel> tables;
  private final Map<String, List<Incoming>> incoming = new TreeMap<>();
  private final Optional<SiteModel.PeopleRule> people;
  private final List<FollowRules.StepRule> steps;
  private final List<String> linkedFiles;
  private final List<FollowRules.AppointmentRule> appointments;
  private final List<FollowRules.AlongRule> along;
  private final Map<String, Judgement> unknown;

  SiteMap(Map<String, TableModel> tables, SiteModel said, Map<String, Judgement> unknown) {
    this.tables = tables;
    this.unknown = new TreeMap<>(unknown);
    this.people = said.ownPeople().filter(rule -> tables.containsKey(rule.table()));
    this.steps = said.follows().steps();
    this.linkedFiles = said.texts().linkedFiles();
    this.appointments =
        said.follows().appointments().stream()
            .filter(rule -> tables.containsKey(rule.of()) && tables.containsKey(rule.in().table()))
            .toList();
    this.along = said.follows().along().stream().filter(rule -> isThere(rule, tables)).toList();
    for (TableModel model : tables.values()) {
      for (Reference reference : model.references()) {
        incoming
            .computeIfAbsent(reference.target(), name -> new ArrayList<>())
            .add(new Incoming(model, reference));
      }
    }
  }

  /** A reference from some table, seen from the table that it refers to. */
  public record Incoming(TableModel from, Reference reference) {}

  /**
   * Resolves a model against tables. A rule of the model whose column or table is not there is
   * passed over: extensions come and go.
   */
  public static SiteMap resolve(SiteModel model, Collection<Table> schema) {
    return resolve(model, schema, Guesses.NONE);
  }

  /**
   * The same, with references that nobody declared.
   *
   * @param guessed those of columns count for tables that the model does not describe
   */
  public static SiteMap resolve(SiteModel model, Collection<Table> schema, Guesses guessed) {
    return Resolution.of(model, schema, guessed);
  }

  /** The tables that the model does not name, and what they are taken for. */
  public Map<String, Judgement> unknown() {
    return Collections.unmodifiableMap(unknown);
  }

  /** Takes an unknown table for live's own, since rows came in there. */
  public void foundOnLive(String table, long rows) {
    unknown.computeIfPresent(
        table,
        (name, judged) -> judged.role() == Role.CONTENT ? Judgement.ofRowsOnLive(rows) : judged);
  }

  /** Whose the rows of a table are, as it was judged; empty if the model says so itself. */
  public Optional<Role> judged(String table) {
    return Optional.ofNullable(unknown.get(table)).map(Judgement::role);
  }

  /** Which table holds the people of a copy. */
  public Optional<SiteModel.PeopleRule> people() {
    return people;
  }

  /** What may be left for a person. */
  public List<FollowRules.StepRule> steps() {
    return steps;
  }

  private static boolean isThere(FollowRules.AlongRule rule, Map<String, TableModel> tables) {
    FollowRules.AlongRule.Memory memory = rule.remembered();
    List<String> told = new ArrayList<>(memory.where().keySet());
    told.addAll(List.of(memory.by(), memory.column()));
    return tables.containsKey(rule.of())
        && hasNumberAnd(
            tables.get(rule.rows().table()), List.of(rule.rows().by(), rule.rows().column()))
        && hasNumberAnd(tables.get(memory.table()), told);
  }

  private static boolean hasNumberAnd(TableModel model, List<String> columns) {
    return model != null
        && model.table().isNumbered()
        && columns.stream().allMatch(column -> model.table().position(column).isPresent());
  }

  /** Rows that go along with another row's status. */
  public List<FollowRules.AlongRule> along() {
    return along;
  }

  /** Rows that must be entered in a table of appointments. */
  public List<FollowRules.AppointmentRule> appointments() {
    return appointments;
  }

  /** Paths below the site's address where files are that texts link to. */
  public List<String> linkedFiles() {
    return linkedFiles;
  }

  public Collection<TableModel> tables() {
    return tables.values();
  }

  /**
   * The table of a name without prefix; throws {@link IllegalArgumentException} if there is none.
   */
  public TableModel table(String name) {
    return find(name).orElseThrow(() -> new IllegalArgumentException("no table " + name));
  }

  public Optional<TableModel> find(String name) {
    return Optional.ofNullable(tables.get(name));
  }

  /** The references into a table. */
  public List<Incoming> incoming(String table) {
    return incoming.getOrDefault(table, List.of());
  }
}
