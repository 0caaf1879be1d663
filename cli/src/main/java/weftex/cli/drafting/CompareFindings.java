package weftex.cli.drafting;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.cli.result.CompareReport;
import weftex.core.compare.Comparison;
import weftex.core.compare.Tally;
import weftex.core.model.Role;
import weftex.core.plan.Plan;
import weftex.core.select.Selection;
import weftex.core.site.TableModel;
import weftex.store.compare.ComparisonRun;
import weftex.store.copy.Copy;

/** What a comparison found, in words and numbers. */
final class CompareFindings {

  private CompareFindings() {}

  /** How the rows of each table stand. */
  static List<CompareReport.TableCompared> tables(
      ComparisonRun run, Plan plan, Selection selection) {
    Comparison comparison = run.comparison();
    List<CompareReport.TableCompared> tables = new ArrayList<>();
    for (int i = 0; i < comparison.tables().size(); i++) {
      TableModel model = comparison.tables().get(i);
      Tally tally = comparison.tally(i);
      String name = model.table().name();
      Role role =
          model.ownership().role() == Role.CONTENT
              ? run.site().judged(name).orElse(Role.CONTENT)
              : model.ownership().role();
      tables.add(
          new CompareReport.TableCompared(
              name,
              role.words(),
              selection.chooses(model)
                  && (role == model.ownership().role()
                      || !selection.leavesOut(model, role, Optional.empty())),
              tally.unchanged(),
              new CompareReport.TableCompared.OnSource(
                  tally.sourceAdded(), tally.sourceUpdated(), tally.sourceRemoved()),
              new CompareReport.TableCompared.OnTarget(
                  tally.targetAdded(), tally.targetUpdated(), tally.targetRemoved()),
              plan.conflicts(name)));
    }
    return tables;
  }

  /** Why tables are not compared, by name. */
  static Map<String, String> notCompared(ComparisonRun run) {
    Map<String, String> notCompared = new TreeMap<>(run.tables().pairing().incomparable());
    run.tables().noise().forEach(name -> notCompared.put(name, "noise"));
    run.tables()
        .pairing()
        .onlyInSource()
        .forEach(name -> notCompared.put(name, "only on " + run.source().name()));
    run.tables()
        .pairing()
        .onlyInTarget()
        .forEach(name -> notCompared.put(name, "only on " + run.target().name()));
    notCompared.putAll(run.tables().growth().notMade());
    for (Copy copy : List.of(run.source(), run.target())) {
      copy.catalog()
          .notHandled()
          .forEach((name, what) -> notCompared.put(name, what + " on " + copy.name()));
    }
    return notCompared;
  }
}
