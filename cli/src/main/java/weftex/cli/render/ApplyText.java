package weftex.cli.render;

import weftex.cli.result.ApplyReport;
import weftex.store.apply.Drift;

/** Prints what became of an apply. */
public final class ApplyText {
  private static final int LISTED = 10;

  private ApplyText() {}

  public static void print(Page page, ApplyReport report) {
    String direction = page.strong(report.from() + " → " + report.into());
    switch (report.outcome()) {
      case "applied" -> {
        if (!report.schema().isEmpty()) {
          page.line("Made on " + report.into() + ": " + String.join(", ", report.schema()) + ".");
        }
        page.line(
            "Applied "
                + direction
                + ": "
                + report.adds()
                + " added, "
                + report.updates()
                + " updated, "
                + report.removes()
                + " removed, in one transaction; every row was read back and verified"
                + (report.altered().isEmpty()
                    ? "."
                    : ". In "
                        + report.altered().size()
                        + (report.altered().size() == 1 ? " row" : " rows")
                        + " the server itself changed more:"));
        report.renumbered().entrySet().stream()
            .limit(LISTED)
            .forEach(
                entry ->
                    page.line(
                        "  "
                            + entry.getKey()
                            + " has ID "
                            + page.strong(entry.getValue())
                            + " on "
                            + report.into()));
        if (report.renumbered().size() > LISTED) {
          page.line(
              "  … and "
                  + (report.renumbered().size() - LISTED)
                  + " more rows have other numbers; --json lists them");
        }
        report.altered().forEach(drift -> page.line("  " + place(drift) + ": " + drift.what()));
        report
            .followed()
            .forEach(
                f ->
                    page.line(
                        "  "
                            + f.table()
                            + "."
                            + f.column()
                            + " was "
                            + f.does()
                            + " in "
                            + f.rows()
                            + (f.rows() == 1 ? " row" : " rows")));
        report
            .touched()
            .forEach(
                (kind, rows) ->
                    page.line(
                        (rows.after() > rows.before() ? page.alert(kind) : kind)
                            + " in touched rows: "
                            + rows.before()
                            + " before, "
                            + rows.forecast()
                            + " expected, "
                            + rows.after()
                            + " now; 'weftex scan "
                            + report.into()
                            + "' names them"));
        page.line("Receipt: " + report.receipt());
        if (!report.steps().isEmpty()) {
          page.blank();
          page.line("Left for you:");
          report.steps().forEach(step -> page.line("  [ ] " + step));
          page.blank();
        }
        page.line(page.faint("Next: look at the site; 'weftex undo' takes it back."));
      }
      case "already-applied" ->
          page.line(
              "This change set was applied on "
                  + report.at()
                  + " (receipt "
                  + report.receipt()
                  + "). Nothing was done.");
      default -> {
        page.line(
            page.alert("Not applied.")
                + " Rows of "
                + report.into()
                + " changed since the review; nothing was written:");
        report.drifts().forEach(drift -> page.line("  " + place(drift) + ": " + drift.what()));
        if (report.moreDrifts() > 0) {
          page.line("  … and " + report.moreDrifts() + " more");
        }
        page.line(page.faint("Next: weftex draft again, and review."));
      }
    }
  }

  private static String place(Drift drift) {
    return "change "
        + drift.change()
        + ", "
        + drift.table()
        + " "
        + Page.shortened(drift.key(), 60);
  }
}
