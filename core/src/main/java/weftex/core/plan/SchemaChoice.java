package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.SchemaChange;
import weftex.core.compare.Comparison;
import weftex.core.match.Sides;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.select.Selection;
import weftex.core.site.SiteMap;

/** Which of the tables and columns that the target lacks are made. */
final class SchemaChoice {
  private final Planner planner;
  private final Comparison comparison;
  private final SiteMap site;
  private final List<SchemaChange> schema;

  /**
   * @param schema what the target lacks, in the order of making it
   */
  SchemaChoice(Planner planner, Comparison comparison, SiteMap site, List<SchemaChange> schema) {
    this.planner = planner;
    this.comparison = comparison;
    this.site = site;
    this.schema = schema;
  }

  /** What must be made for the rows that are written, and what is chosen for itself. */
  Plan.Schema of(List<Planned> ordered, Selection selection) throws IOException {
    Set<String> written = new HashSet<>();
    Set<String> touched = new HashSet<>();
    for (Planned planned : ordered) {
      Table table = comparison.tables().get(planned.table).table();
      if (schema.stream().noneMatch(change -> change.table().equals(table.name()))) {
        continue;
      }
      written.add(table.name());
      Sides sides = planner.sides(planned);
      List<Value> outcome =
          planned.action == Action.REMOVE ? List.of() : planner.outcome(planned, sides);
      for (int i = 0; i < outcome.size(); i++) {
        if (planned.action == Action.ADD
            || !outcome.get(i).equals(sides.target().values().get(i))) {
          touched.add(table.name() + "." + table.columns().get(i).name());
        }
      }
    }
    return made(selection, written, touched);
  }

  private Plan.Schema made(Selection selection, Set<String> written, Set<String> touched)
      throws IOException {
    List<SchemaChange> made = new ArrayList<>();
    Map<String, Set<String>> absent = new HashMap<>();
    for (SchemaChange change : schema) {
      boolean needed =
          change
              .column()
              .map(column -> touched.contains(change.table() + "." + column))
              .orElse(written.contains(change.table()));
      boolean chosen =
          !selection.members().picks()
              && selection.choosesTable(change.column().isEmpty())
              && selection.choosesWhole(site.table(change.table()));
      if (needed || chosen) {
        made.add(change.numbered(made.size() + 1));
      } else {
        change
            .column()
            .ifPresent(
                column ->
                    absent.computeIfAbsent(change.table(), name -> new HashSet<>()).add(column));
      }
    }
    return new Plan.Schema(made, absent);
  }
}
