package weftex.core.site;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.core.value.Format;

/**
 * Every table of a site with its meaning: the model's words where it has any, else what the schema
 * shows.
 */
public final class SiteMap {
  private final Map<String, TableModel> tables;
  private final Map<String, List<Incoming>> incoming = new TreeMap<>();
  private final Optional<SiteModel.PeopleRule> people;
  private final List<SiteModel.StepRule> steps;
  private final List<String> linkedFiles;
  private final List<SiteModel.AppointmentRule> appointments;
  private final List<SiteModel.AlongRule> along;
  private final Map<String, Judgement> unknown;

  private SiteMap(Map<String, TableModel> tables, SiteModel said, Map<String, Judgement> unknown) {
    this.tables = tables;
    this.unknown = new TreeMap<>(unknown);
    this.people = said.ownPeople().filter(rule -> tables.containsKey(rule.table()));
    this.steps = said.steps();
    this.linkedFiles = said.linkedFiles();
    this.appointments =
        said.appointments().stream()
            .filter(rule -> tables.containsKey(rule.of()) && tables.containsKey(rule.in().table()))
            .toList();
    this.along = said.along().stream().filter(rule -> isThere(rule, tables)).toList();
    for (TableModel model : tables.values()) {
      for (Reference reference : model.references()) {
        incoming
            .computeIfAbsent(reference.target(), name -> new ArrayList<>())
            .add(new Incoming(model, reference));
      }
    }
  }

  /** Types of columns that have room for a value with members. */
  private static final Pattern LONG = Pattern.compile("(?i).*(text|json|clob).*");

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
    Map<String, Table> shapes = new LinkedHashMap<>();
    for (Table table : schema) {
      shapes.put(table.name(), numbered(table, model.rule(table.name()).number()));
    }
    Map<String, TableModel> resolved = new LinkedHashMap<>();
    Map<String, Judgement> unknown = new TreeMap<>();
    for (Table table : shapes.values()) {
      TableRule rule = model.rule(table.name());
      if (!model.names(table.name())) {
        unknown.put(table.name(), Judgement.of(table));
      }
      List<Reference> references =
          references(
              table,
              model.describes(table.name())
                  ? rule.references()
                  : guessed.columns().getOrDefault(table.name(), Map.of()),
              shapes);
      resolved.put(
          table.name(),
          new TableModel(
              table,
              model.role(table),
              identity(table, rule),
              identityIn(rule, shapes),
              unidentified(table, rule),
              references,
              stays(table, rule),
              inside(table, model, shapes, guessed.members()),
              Set.copyOf(present(table, rule.permanent())),
              item(table, rule, shapes),
              partOf(table, rule, references),
              through(table, model, rule.partThrough(), shapes),
              rule.word().isEmpty() ? "row of " + table.name() : rule.word(),
              columns(table, rule),
              rows(table, rule),
              counters(table, rule, shapes),
              Set.copyOf(present(table, rule.secret())),
              clears(table, rule, references),
              files(table, rule),
              prefixed(table, rule)));
    }
    return new SiteMap(Collections.unmodifiableMap(resolved), model, unknown);
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

  private static Map<Integer, TableRule.PrefixRule> prefixed(Table table, TableRule rule) {
    Map<Integer, TableRule.PrefixRule> prefixed = new LinkedHashMap<>();
    rule.prefixed()
        .forEach((column, names) -> table.position(column).ifPresent(i -> prefixed.put(i, names)));
    return prefixed;
  }

  /** Which table holds the people of a copy. */
  public Optional<SiteModel.PeopleRule> people() {
    return people;
  }

  /** What may be left for a person. */
  public List<SiteModel.StepRule> steps() {
    return steps;
  }

  private static boolean isThere(SiteModel.AlongRule rule, Map<String, TableModel> tables) {
    SiteModel.AlongRule.Memory memory = rule.remembered();
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
  public List<SiteModel.AlongRule> along() {
    return along;
  }

  /** Rows that must be entered in a table of appointments. */
  public List<SiteModel.AppointmentRule> appointments() {
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

  /**
   * A schema shows a number column by its being handed out by the server; a model may say so of a
   * whole-number key. A key that is itself a foreign key (the details of another row) is not a
   * number.
   */
  private static Table numbered(Table table, String declared) {
    int number = table.number();
    Optional<Integer> said = declared.isEmpty() ? Optional.empty() : table.position(declared);
    if (said.isPresent() && table.key().equals(List.of(said.get()))) {
      number = table.columns().get(said.get()).kind() == ValueKind.WHOLE ? said.get() : number;
    }
    if (number >= 0) {
      String name = table.columns().get(number).name();
      if (table.foreignKeys().stream().anyMatch(key -> key.columns().equals(List.of(name)))) {
        number = -1;
      }
    }
    return new Table(
        table.name(),
        table.columns(),
        table.key(),
        number,
        table.uniqueKeys(),
        table.foreignKeys());
  }

  private static List<Integer> identity(Table table, TableRule rule) {
    if (!table.isNumbered()) {
      return List.of();
    }
    if (!rule.identity().isEmpty()) {
      boolean there = rule.identity().stream().allMatch(name -> table.position(name).isPresent());
      return there ? table.positions(rule.identity()) : List.of();
    }
    List<List<Integer>> candidates =
        table.uniqueKeys().stream()
            .filter(key -> key.stream().noneMatch(i -> table.columns().get(i).nullable()))
            .toList();
    return candidates.size() == 1 ? candidates.get(0) : List.of();
  }

  private static List<Reference> references(
      Table table, Map<String, TableRule.ReferenceRule> rules, Map<String, Table> shapes) {
    List<Reference> references = new ArrayList<>();
    for (ForeignKey key : table.foreignKeys()) {
      Table target = shapes.get(key.table());
      if (target != null && hasAll(table, key.columns()) && hasAll(target, key.targetColumns())) {
        references.add(
            new Reference(
                table.positions(key.columns()),
                key.table(),
                target.positions(key.targetColumns()),
                "",
                true));
      }
    }
    for (Map.Entry<String, TableRule.ReferenceRule> entry : new TreeMap<>(rules).entrySet()) {
      TableRule.ReferenceRule said = entry.getValue();
      Table target = shapes.get(said.to());
      Optional<Integer> from = table.position(entry.getKey());
      if (target == null || from.isEmpty()) {
        continue;
      }
      List<Integer> to =
          said.column().isEmpty()
              ? target.key()
              : target.position(said.column()).map(List::of).orElse(List.of());
      if (to.size() == 1) {
        references.add(new Reference(List.of(from.get()), said.to(), to, said.unset(), false));
      }
    }
    return references;
  }

  private static boolean hasAll(Table table, List<String> columns) {
    return columns.stream().allMatch(name -> table.position(name).isPresent());
  }

  private static Optional<Reference> partOf(
      Table table, TableRule rule, List<Reference> references) {
    Optional<Integer> column = table.position(rule.partOf());
    return references.stream()
        .filter(
            reference -> column.isPresent() && reference.columns().equals(List.of(column.get())))
        .findFirst();
  }

  private static Optional<PartThrough> through(
      Table table, SiteModel model, TableRule.PartThroughRule said, Map<String, Table> shapes) {
    if (said == null || !shapes.containsKey(said.table())) {
      return Optional.empty();
    }
    Table links = shapes.get(said.table());
    Optional<Condition> when = Condition.of(table, said.when());
    Optional<Integer> from = links.position(said.from());
    Optional<Reference> to =
        references(links, model.rule(links.name()).references(), shapes).stream()
            .filter(r -> links.names(r.columns()).equals(List.of(said.to())))
            .findFirst();
    return when.isPresent() && from.isPresent() && to.isPresent()
        ? Optional.of(new PartThrough(when.get(), said.table(), from.get(), to.get(), said.word()))
        : Optional.empty();
  }

  /** What is declared comes first: where it holds, the names of members count for nothing. */
  private static List<Inside> inside(
      Table table, SiteModel model, Map<String, Table> shapes, List<PlaceRule> members) {
    TableRule rule = model.rule(table.name());
    List<Inside> resolved = declared(table, rule, model.markup(), shapes);
    if (members.isEmpty() || model.role(table) == Role.NOISE) {
      return resolved;
    }
    Condition always = new Condition(Map.of());
    for (int i = 0; i < table.columns().size(); i++) {
      Column column = table.columns().get(i);
      if (isLong(column) && rule.columns().get(column.name()) != ColumnRule.PLAIN) {
        resolved.add(
            new Inside(i, always, Optional.empty(), Format.AUTO, members, List.of(), true));
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
    for (Map.Entry<String, List<InsideRule>> entry : new TreeMap<>(rule.inside()).entrySet()) {
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
            new Inside(column.get(), when, sibling, said.format(), places, said.sets(), false));
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
    return hasAll(table, needed);
  }

  private static <T> Map<Integer, T> positions(Table table, Map<String, T> byName) {
    Map<Integer, T> byPosition = new TreeMap<>();
    byName.forEach((name, value) -> byPosition.put(table.positions(List.of(name)).get(0), value));
    return byPosition;
  }

  private static List<Integer> present(Table table, List<String> names) {
    return names.stream().map(table::position).flatMap(Optional::stream).toList();
  }

  private static Optional<ItemNaming> item(Table table, TableRule rule, Map<String, Table> shapes) {
    Optional<Integer> newer =
        columns(table, rule).entrySet().stream()
            .filter(column -> column.getValue() == ColumnRule.NEWER)
            .map(Map.Entry::getKey)
            .min(Integer::compare);
    return Optional.ofNullable(rule.item())
        .flatMap(said -> ItemNaming.of(said, table, shapes))
        .map(naming -> naming.changedAt(newer));
  }

  private static Optional<TableModel.IdentityIn> identityIn(
      TableRule rule, Map<String, Table> shapes) {
    TableRule.IdentityInRule said = rule.identityIn();
    Table in = said == null ? null : shapes.get(said.table());
    if (in == null || in.position(said.by()).isEmpty()) {
      return Optional.empty();
    }
    List<Integer> columns = in.positionsOrNone(said.columns());
    return columns.isEmpty()
        ? Optional.empty()
        : Optional.of(
            new TableModel.IdentityIn(said.table(), in.position(said.by()).get(), columns));
  }

  private static List<Condition> unidentified(Table table, TableRule rule) {
    return rule.identityUnless().entrySet().stream()
        .map(entry -> Condition.of(table, Map.of(entry.getKey(), entry.getValue())))
        .flatMap(Optional::stream)
        .toList();
  }

  private static Map<Integer, ColumnRule> columns(Table table, TableRule rule) {
    Map<Integer, ColumnRule> columns = new TreeMap<>();
    rule.columns()
        .forEach((name, said) -> table.position(name).ifPresent(i -> columns.put(i, said)));
    return columns;
  }

  private static List<TableModel.Rows> rows(Table table, TableRule rule) {
    return rule.rows().stream()
        .flatMap(
            said ->
                Condition.of(table, said.when()).stream()
                    .map(when -> new TableModel.Rows(when, said.role(), said.onlyNew())))
        .toList();
  }

  private static List<Counter> counters(Table table, TableRule rule, Map<String, Table> shapes) {
    List<Counter> counters = new ArrayList<>();
    for (Map.Entry<String, TableRule.CounterRule> entry :
        new TreeMap<>(rule.counters()).entrySet()) {
      TableRule.CounterRule said = entry.getValue();
      Table of = shapes.get(said.of());
      Optional<Integer> column = table.position(entry.getKey());
      if (of == null || column.isEmpty() || table.key().size() != 1) {
        continue;
      }
      Optional<Integer> by = of.position(said.by());
      Optional<Condition> where = Condition.of(of, said.where());
      Optional<Counter.Through> through = through(of, said.through(), shapes);
      if (by.isPresent() && where.isPresent() && (through.isPresent() || said.through() == null)) {
        counters.add(
            new Counter(column.get(), said.of(), by.get(), where.get().patterns(), through));
      }
    }
    return counters;
  }

  private static Optional<Counter.Through> through(
      Table of, TableRule.CounterRule.Through said, Map<String, Table> shapes) {
    if (said == null || !shapes.containsKey(said.to())) {
      return Optional.empty();
    }
    Table to = shapes.get(said.to());
    Optional<Integer> column = of.position(said.column());
    Optional<Condition> where = Condition.of(to, said.where());
    return column.isPresent() && where.isPresent() && to.key().size() == 1
        ? Optional.of(new Counter.Through(column.get(), said.to(), where.get().patterns()))
        : Optional.empty();
  }

  private static List<FileRule.Resolved> files(Table table, TableRule rule) {
    List<FileRule.Resolved> files = new ArrayList<>();
    for (FileRule said : rule.files()) {
      Optional<Condition> when = Condition.of(table, said.when());
      Optional<Integer> column = table.position(said.column());
      if (when.isPresent() && column.isPresent()) {
        files.add(new FileRule.Resolved(when.get(), column.get(), said.under()));
      }
    }
    return files;
  }

  private static List<Clear> clears(Table table, TableRule rule, List<Reference> references) {
    List<Clear> clears = new ArrayList<>();
    for (TableRule.ClearRule said : rule.clear()) {
      Optional<Condition> when = Condition.of(table, said.when());
      Optional<Integer> column = table.position(said.column());
      if (when.isPresent() && column.isPresent() && table.hasKey()) {
        Optional<Reference> of =
            table
                .position(said.of())
                .flatMap(
                    at ->
                        references.stream()
                            .filter(reference -> reference.columns().equals(List.of(at)))
                            .findFirst());
        if (said.of().isEmpty() || of.isPresent()) {
          clears.add(new Clear(when.get(), column.get(), said.after(), of));
        }
      }
    }
    return clears;
  }

  private static Map<Integer, Set<String>> stays(Table table, TableRule rule) {
    return rule.stays().entrySet().stream()
        .filter(entry -> table.position(entry.getKey()).isPresent())
        .collect(
            Collectors.toMap(
                entry -> table.position(entry.getKey()).orElseThrow(),
                entry -> Set.copyOf(entry.getValue())));
  }
}
