package weftex.core.site;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.model.PartRule;
import weftex.core.model.SiteModel;
import weftex.core.row.Table;

/**
 * What the rows of a table are parts of.
 *
 * @param of the reference to the row that they are a part of
 * @param through rows that are a part of something by a link
 * @param word what such a part is called
 */
public record Parts(Optional<Reference> of, Optional<Through> through, String word) {

  /**
   * Rows that are a part of something by a row of a table of links, such as the entries of a menu.
   *
   * @param when tells these rows
   * @param table the table of links
   * @param from position there of the column that holds the part's key
   * @param to the reference there to what it is a part of
   * @param word what such a part is called
   */
  public record Through(Condition when, String table, int from, Reference to, String word) {
    private static Optional<Through> of(
        Table table, PartRule.Through said, SiteModel model, Map<String, Table> shapes) {
      if (said == null || !shapes.containsKey(said.table())) {
        return Optional.empty();
      }
      Table links = shapes.get(said.table());
      Optional<Condition> when = Condition.of(table, said.when());
      Optional<Integer> from = links.position(said.from());
      Optional<Reference> to =
          Reference.all(links, model.rule(links.name()).references(), shapes).stream()
              .filter(r -> links.names(r.columns()).equals(List.of(said.to())))
              .findFirst();
      return when.isPresent() && from.isPresent() && to.isPresent()
          ? Optional.of(new Through(when.get(), said.table(), from.get(), to.get(), said.word()))
          : Optional.empty();
    }
  }

  /**
   * Resolves what a model says.
   *
   * @param references of the table
   */
  static Parts of(
      Table table, SiteModel model, List<Reference> references, Map<String, Table> shapes) {
    PartRule said = model.rule(table.name()).part();
    return new Parts(
        Reference.from(table, said.of(), references),
        Through.of(table, said.through(), model, shapes),
        said.word().isEmpty() ? "row of " + table.name() : said.word());
  }

  /** Whether a row is a part of what it refers to by this. */
  public boolean isBy(Reference reference) {
    return of.map(up -> up.columns().equals(reference.columns())).orElse(false);
  }
}
