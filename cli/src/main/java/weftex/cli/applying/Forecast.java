package weftex.cli.applying;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import weftex.cli.result.ApplyReport;
import weftex.cli.workplace.Workplace;
import weftex.core.change.ChangeSetHeader;
import weftex.core.scan.FindingKind;
import weftex.store.Refusal;
import weftex.store.apply.ApplyOutcome;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.copy.Copy;
import weftex.store.database.CatalogTable;
import weftex.store.database.Trigger;
import weftex.store.receipt.Receipt;
import weftex.store.scan.TouchedScan;

/** What an apply would do, and what is said before it does. */
final class Forecast {

  private Forecast() {}

  /** Says what else the server is going to do when rows are written. */
  static void sayTriggers(ChangeSetFile reviewed, Workplace place, Copy target)
      throws Refusal, IOException {
    if (!isGoing(reviewed, place)) {
      return;
    }
    for (ChangeSetHeader.TableColumns written : reviewed.contents().header().tables()) {
      for (Trigger trigger :
          target.catalog().find(written.name()).map(CatalogTable::triggers).orElse(List.of())) {
        place.say(
            "Table "
                + target.spec().prefix()
                + written.name()
                + " has the trigger "
                + trigger.words()
                + " on "
                + target.name()
                + ", which may change more than the change set says"
                + (trigger.names().isEmpty()
                    ? "."
                    : ": it names " + String.join(", ", new TreeSet<>(trigger.names())) + "."));
      }
    }
  }

  /**
   * What will be wrong in the touched rows, said before anything is written; an apply that is not
   * going to happen needs none.
   */
  static Map<FindingKind, Long> forecast(ChangeSetFile reviewed, Workplace place, Copy target)
      throws Refusal, IOException {
    if (!isGoing(reviewed, place)) {
      return Map.of();
    }
    Map<FindingKind, Long> forecast =
        TouchedScan.forecast(
            reviewed,
            target,
            place.pair().model(),
            place.pair().addresses(),
            place.pair().other(target.name()));
    forecast.forEach(
        (kind, rows) ->
            place.say(
                "Expected in touched rows: "
                    + kind.label()
                    + " in "
                    + rows
                    + (rows == 1 ? " row." : " rows.")));
    return forecast;
  }

  /** Whether anything is going to be written, as far as the file and this folder know. */
  static boolean isGoing(ChangeSetFile reviewed, Workplace place) throws Refusal, IOException {
    return reviewed.contents().isApproved() && !reviewed.isNothing() && !isApplied(reviewed, place);
  }

  /** Whether the last that this folder knows of a change set is that it was applied. */
  static boolean isApplied(ChangeSetFile reviewed, Workplace place) throws Refusal, IOException {
    boolean applied = false;
    for (Receipt receipt : place.receipts().all()) {
      boolean same = receipt.changeSet().equals(reviewed.contents().draft());
      if (same && receipt.outcome() == Receipt.Outcome.COMMITTED) {
        applied = receipt.kind().equals("apply");
      }
    }
    return applied;
  }

  /** What is done is done: a scan that fails afterwards says nothing. */
  static Map<String, ApplyReport.Touched> touched(
      ApplyOutcome outcome, Map<FindingKind, Long> forecast, Workplace place, Copy target) {
    if (!(outcome instanceof ApplyOutcome.Applied done)) {
      return Map.of();
    }
    try {
      return ApplyReport.Touched.of(
          TouchedScan.run(
              place.receipts(),
              done.receipt(),
              target,
              place.pair().model(),
              place.pair().addresses(),
              place.pair().other(target.name())),
          forecast);
    } catch (Refusal | IOException e) {
      return Map.of();
    }
  }
}
