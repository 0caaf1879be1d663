package weftex.cli.drafting;

import java.io.IOException;
import java.nio.file.Path;
import weftex.cli.result.DraftReport;
import weftex.cli.result.FilesReport;
import weftex.cli.result.InsideReport;
import weftex.cli.result.RolesReport;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Sealing;
import weftex.cli.workplace.Workplace;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.decide.CarriedDecisions;
import weftex.core.plan.Plan;
import weftex.store.compare.ComparisonRun;
import weftex.store.compare.Drafting;

/** What is said of a draft. */
final class DraftOutcome {

  private final DraftRun.Task task;
  private final Workplace place;

  DraftOutcome(DraftRun.Task task, Workplace place) {
    this.task = task;
    this.place = place;
  }

  DraftReport report(ComparisonRun run, Plan plan, Drafting.Written written, FilesReport files)
      throws IOException {
    Path file = task.file();
    int open = written.review().count(Review.Standing.OPEN);
    CarriedDecisions.Outcome carried = written.carried();
    return new DraftReport(
        new DraftReport.Named(
            place.shown(file),
            NamedChangeSet.argument(place, file),
            run.source().name(),
            run.target().name()),
        new DraftReport.Made(
            plan.size() + plan.schema().size() + (int) files.all(),
            plan.schema().stream().map(change -> change.item().words()).toList(),
            plan.count(Action.ADD),
            plan.count(Action.UPDATE),
            plan.count(Action.REMOVE)),
        new DraftReport.Open(open, plan.offered(), written.ruled()),
        files,
        new DraftReport.Decided(
            written.kept().stream()
                .map(id -> written.review().thing(id).map(Item::words).orElse("change " + id))
                .distinct()
                .toList(),
            carried.carried().stream().mapToLong(d -> d.changes().size()).sum(),
            carried.fallen().stream().map(DraftOutcome::fallen).toList()),
        InsideReport.of(run, plan),
        RolesReport.of(run, plan),
        new DraftReport.Sealed(
            task.receivers().names(), Sealing.opens(place.keys(), task.receivers())),
        place.took(file));
  }

  static DraftReport.Fallen fallen(CarriedDecisions.Fallen fallen) {
    return new DraftReport.Fallen(
        fallen.change(),
        fallen.thing().words(),
        fallen.decision().answer().label(),
        fallen.decision().column().orElse(""),
        fallen.decision().by(),
        fallen.decision().why(),
        fallen.because());
  }
}
