package weftex.store.compare;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import weftex.core.change.ChangeSetHeader;
import weftex.core.plan.Plan;
import weftex.store.database.SharedTable;

/** The header of a change set. */
final class DraftHeader {

  private DraftHeader() {}

  static ChangeSetHeader header(ComparisonRun run, Plan plan, Drafting.Terms terms) {
    Set<String> touched = new LinkedHashSet<>(plan.tables());
    List<ChangeSetHeader.TableColumns> tables =
        run.site().tables().stream()
            .filter(model -> touched.contains(model.table().name()))
            .map(
                model -> {
                  SharedTable shared = run.tables().shared(model.table().name());
                  return made(
                      ChangeSetHeader.TableColumns.of(model.table(), targetOnly(run, shared)),
                      plan.absent(model.table().name()));
                })
            .toList();
    return new ChangeSetHeader(
        terms.site(),
        run.source().name(),
        run.target().name(),
        run.target().spec().place(),
        run.base().map(base -> base.copy() + " of " + base.marked()),
        terms.at(),
        terms.tool(),
        terms.selection(),
        tables,
        terms.receivers().lines());
  }

  static ChangeSetHeader.TableColumns made(ChangeSetHeader.TableColumns table, Set<String> absent) {
    return new ChangeSetHeader.TableColumns(
        table.name(),
        table.key(),
        table.number(),
        table.columns().stream().filter(column -> !absent.contains(column.name())).toList(),
        table.others());
  }

  /** Every column that the target has beyond those that are compared. */
  static List<String> targetOnly(ComparisonRun run, SharedTable shared) {
    return run.target().catalog().find(shared.name()).orElseThrow().table().columns().stream()
        .map(column -> column.name())
        .filter(name -> shared.target().table().position(name).isEmpty())
        .toList();
  }
}
