package weftex.cli.result;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.core.row.Table;
import weftex.core.site.Counter;
import weftex.core.site.Inside;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/**
 * The site model in force.
 *
 * @param model its name
 * @param parent the model that it extends; empty if none
 */
public record ModelReport(String model, String parent, List<TableMeaning> tables) {

  /**
   * What a table means.
   *
   * @param from {@code schema}, or the model that names it
   * @param facts each with where it comes from
   */
  public record TableMeaning(String name, String role, String from, List<Fact> facts) {}

  /** One rule that holds, in words. */
  public record Fact(String what, String from) {}

  public static ModelReport of(SiteModel model, Optional<SiteModel> parent, SiteMap site) {
    List<TableMeaning> tables = new ArrayList<>();
    for (TableModel table : site.tables()) {
      tables.add(table(table, model, parent));
    }
    return new ModelReport(model.model(), model.parent(), tables);
  }

  /** Says whose a rule is: the model's own, or that of the model which it extends. */
  private record Origin(SiteModel model, Optional<TableRule> parent) {
    public String of(java.util.function.Predicate<TableRule> hasIt) {
      return parent.filter(hasIt).isPresent() ? model.parent() : model.model();
    }
  }

  private static TableMeaning table(
      TableModel meaning, SiteModel model, Optional<SiteModel> parent) {
    Table table = meaning.table();
    TableRule rule = model.rule(table.name());
    Origin origin = new Origin(model, parent.map(p -> p.rule(table.name())));
    List<Fact> facts = new ArrayList<>();
    if (table.isNumbered()) {
      String number = table.columns().get(table.number()).name();
      facts.add(
          new Fact(
              "rows are numbered by " + number,
              rule.number().isEmpty()
                  ? "schema"
                  : origin.of(r -> r.number().equals(rule.number()))));
    }
    if (!meaning.identity().columns().isEmpty()) {
      facts.add(
          new Fact(
              "known by " + String.join(", ", table.names(meaning.identity().columns())),
              rule.identity().columns().isEmpty()
                  ? "schema"
                  : origin.of(r -> r.identity().columns().equals(rule.identity().columns()))));
    }
    addReferences(meaning, table, origin, facts);
    addContents(facts, meaning, rule, origin);
    addRules(facts, meaning, rule, origin);
    boolean named = model.tables().containsKey(table.name());
    return new TableMeaning(
        table.name(),
        meaning.ownership().role().words(),
        named ? origin.of(r -> !r.equals(SiteModel.PLAIN.rule(""))) : "schema",
        facts);
  }

  private static void addReferences(
      TableModel meaning, Table table, Origin origin, List<Fact> facts) {
    for (Reference reference : meaning.references()) {
      String column = String.join(", ", table.names(reference.columns()));
      facts.add(
          new Fact(
              column + " refers to " + reference.target(),
              reference.enforced()
                  ? "schema"
                  : origin.of(r -> r.references().containsKey(column))));
    }
  }

  /** What is inside its values, and what is counted. */
  private static void addContents(
      List<Fact> facts, TableModel meaning, TableRule rule, Origin origin) {
    Table table = meaning.table();
    Map<String, Long> inside = new TreeMap<>();
    for (Inside rules : meaning.contents().inside()) {
      inside.merge(
          table.columns().get(rules.column()).name(), (long) rules.places().size(), Long::sum);
    }
    inside.forEach(
        (column, places) ->
            facts.add(
                new Fact(
                    "inside "
                        + column
                        + ", "
                        + places
                        + (places == 1 ? " place" : " places")
                        + " of numbers",
                    origin.of(
                        r ->
                            rule.contents()
                                .inside()
                                .getOrDefault(column, List.of())
                                .equals(r.contents().inside().get(column))))));
    for (Counter counter : meaning.after().counters()) {
      String column = table.columns().get(counter.column()).name();
      facts.add(
          new Fact(
              column + " is recounted from " + counter.of(),
              origin.of(r -> r.after().counters().containsKey(column))));
    }
  }

  /** How its columns and rows are dealt with, whose they are, and what they are parts of. */
  private static void addRules(
      List<Fact> facts, TableModel meaning, TableRule rule, Origin origin) {
    rule.handling()
        .columns()
        .forEach(
            (column, said) ->
                facts.add(
                    new Fact(
                        column + " is " + said.name().toLowerCase(java.util.Locale.ROOT),
                        origin.of(r -> r.handling().columns().containsKey(column)))));
    rule.ownership()
        .rows()
        .forEach(
            row ->
                facts.add(
                    new Fact(
                        "rows with " + row.when() + " are " + row.role().words(),
                        origin.of(r -> r.ownership().rows().contains(row)))));
    rule.ownership()
        .stays()
        .forEach(
            (column, patterns) ->
                facts.add(
                    new Fact(
                        patterns.size() == 1
                            ? "1 pattern of " + column + " never travels"
                            : patterns.size() + " patterns of " + column + " never travel",
                        origin.of(r -> patterns.equals(r.ownership().stays().get(column))))));
    meaning
        .parts()
        .of()
        .ifPresent(
            up ->
                facts.add(
                    new Fact(
                        "a row is a " + meaning.parts().word() + " of " + up.target(),
                        origin.of(r -> r.part().of().equals(rule.part().of())))));
  }
}
