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
import java.util.stream.Collectors;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;

/** Finds what a model's rules mean for the tables that are there. */
final class Resolution {
  private Resolution() {}

  /** Resolves a model against tables. */
  static SiteMap of(SiteModel model, Collection<Table> schema, Guesses guessed) {
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
              InsideResolution.of(table, model, shapes, guessed.members()),
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
              prefixed(table, rule),
              masked(table, rule)));
    }
    return new SiteMap(Collections.unmodifiableMap(resolved), model, unknown);
  }

  private static List<TableModel.Masked> masked(Table table, TableRule rule) {
    List<TableModel.Masked> masked = new ArrayList<>();
    for (PersonalRule one : rule.masked()) {
      Optional<Condition> when = Condition.of(table, one.when());
      table
          .position(one.column())
          .filter(column -> when.isPresent())
          .ifPresent(column -> masked.add(new TableModel.Masked(column, when.get())));
    }
    return masked;
  }

  private static Map<Integer, TableRule.PrefixRule> prefixed(Table table, TableRule rule) {
    Map<Integer, TableRule.PrefixRule> prefixed = new LinkedHashMap<>();
    rule.prefixed()
        .forEach((column, names) -> table.position(column).ifPresent(i -> prefixed.put(i, names)));
    return prefixed;
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
    if (rule.masked().stream().anyMatch(one -> rule.identity().contains(one.column()))) {
      // A made-up name tells nothing on the other copy.
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
        files.add(
            new FileRule.Resolved(
                when.get(), column.get(), said.under(), said.path(), said.beside()));
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
