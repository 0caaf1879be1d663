package weftex.cli.applying;

import java.util.Map;
import java.util.TreeMap;
import weftex.cli.page.Times;
import weftex.cli.result.ApplyReport;
import weftex.cli.session.Took;
import weftex.store.apply.ApplyOutcome;

/** Tells of an apply. */
final class AppliedReport {
  private AppliedReport() {}

  /**
   * What became of an apply.
   *
   * @param made what a person sees of it
   */
  static ApplyReport of(
      ApplyOutcome outcome,
      ApplyReport.Where where,
      ApplyReport.Things made,
      Took took,
      Map<String, ApplyReport.Touched> touched) {
    if (outcome instanceof ApplyOutcome.Applied done) {
      Map<String, String> renumbered = new TreeMap<>();
      done.renumbered().forEach((row, number) -> renumbered.put(row.toString(), number.toString()));
      return new ApplyReport.Applied(
          where,
          done.receipt(),
          took,
          done.schema().stream().map(change -> change.item().words()).toList(),
          new ApplyReport.Counts(done.adds(), done.updates(), done.removes()),
          done.files(),
          renumbered,
          made,
          new ApplyReport.Aftermath(
              done.altered(), ApplyReport.Followed.of(done.effects()), touched, done.steps()));
    }
    if (outcome instanceof ApplyOutcome.AlreadyApplied before) {
      return new ApplyReport.AlreadyApplied(
          where, before.entry().receipt(), Times.shown(before.entry().writtenAt()));
    }
    if (outcome instanceof ApplyOutcome.Nothing) {
      return new ApplyReport.Nothing(where);
    }
    ApplyOutcome.Drifted drifted = (ApplyOutcome.Drifted) outcome;
    return new ApplyReport.Drifted(where, drifted.drifts(), drifted.more());
  }
}
