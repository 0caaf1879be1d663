package weftex.core.site;

import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.model.Judgement;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
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
      if (!model.names(table.name())) {
        unknown.put(table.name(), Judgement.of(table));
      }
      resolved.put(table.name(), resolved(table, model, shapes, guessed));
    }
    return new SiteMap(Collections.unmodifiableMap(resolved), model, unknown);
  }

  private static TableModel resolved(
      Table table, SiteModel model, Map<String, Table> shapes, Guesses guessed) {
    TableRule rule = model.rule(table.name());
    List<Reference> references =
        Reference.all(
            table,
            model.describes(table.name())
                ? rule.references()
                : guessed.columns().getOrDefault(table.name(), Map.of()),
            shapes);
    Handling handling = Handling.of(table, rule.handling(), rule.personal());
    return new TableModel(
        table,
        references,
        Optional.ofNullable(rule.item())
            .flatMap(said -> ItemNaming.of(said, table, shapes))
            .map(naming -> naming.changedAt(handling.newer())),
        Identity.of(table, rule, shapes),
        Ownership.of(table, rule.ownership(), model.role(table)),
        Parts.of(table, model, references, shapes),
        Contents.of(
            table, rule.contents(), InsideResolution.of(table, model, shapes, guessed.members())),
        handling,
        AfterEffects.of(table, rule.after(), references, shapes));
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
}
