package weftex.store.compare;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.derive.GuessedReference;
import weftex.core.derive.ModelDeriver;
import weftex.core.model.PlaceRule;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.core.row.Table;
import weftex.core.site.Guesses;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.CopyEvidence;

/**
 * References of tables that no model describes, by the evidence of their names and their rows: an
 * extension's rows must not point to another page only because nobody described the extension.
 *
 * @param byTable what was found, by the table's name
 * @param members names of members of values that tell what their numbers refer to
 */
record UnknownReferences(Map<String, List<GuessedReference>> byTable, List<PlaceRule> members) {

  /**
   * Looks at the rows of a copy.
   *
   * @param tables the tables in question; those that the model describes are passed over
   */
  static UnknownReferences of(Copy copy, SiteModel model, List<Table> tables)
      throws Refusal, IOException {
    List<Table> unknown =
        tables.stream()
            .filter(table -> !model.describes(table.name()))
            .filter(table -> model.role(table) != Role.NOISE)
            .toList();
    List<Table> all = copy.catalog().all().stream().map(found -> found.table()).toList();
    Map<String, List<GuessedReference>> found = new TreeMap<>();
    try (CopyEvidence evidence = copy.evidence()) {
      ModelDeriver deriver = new ModelDeriver(all, model, evidence);
      for (Table table : unknown) {
        List<GuessedReference> references = deriver.references(table);
        if (!references.isEmpty()) {
          found.put(table.name(), references);
        }
      }
      return new UnknownReferences(found, deriver.members());
    }
  }

  /** As rules. */
  Guesses rules() {
    Map<String, Map<String, TableRule.ReferenceRule>> rules = new TreeMap<>();
    byTable.forEach(
        (table, references) -> {
          Map<String, TableRule.ReferenceRule> own = new LinkedHashMap<>();
          for (GuessedReference guess : references) {
            own.put(
                guess.column(),
                new TableRule.ReferenceRule(guess.to(), "", guess.unset() ? "0" : ""));
          }
          rules.put(table, own);
        });
    return new Guesses(rules, members);
  }
}
