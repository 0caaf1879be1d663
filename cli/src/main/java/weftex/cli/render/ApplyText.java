package weftex.cli.render;

import weftex.cli.result.ApplyReport;
import weftex.store.apply.Drift;

/** Prints what became of an apply. */
public final class ApplyText {
  private ApplyText() {}

  /**
   * Prints it.
   *
   * @param rows whether single rows are listed, too
   */
  public static void print(Page page, ApplyReport report, boolean rows) {
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
                + (report.adds() == 1 ? " row" : " rows")
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
        for (ApplyReport.Made made : report.things()) {
          page.line(
              "  "
                  + ItemText.words(page, made.item(), false)
                  + (made.id().isEmpty() ? "" : "; new ID " + page.strong(made.id())));
        }
        if (report.thingsBeyond() > 0) {
          page.line("  … and " + report.thingsBeyond() + " more rows of other things");
        }
        report.altered().forEach(drift -> page.line("  " + place(drift) + ": " + drift.what()));
        if (rows) {
          printRows(page, report);
        }
        report
            .touched()
            .forEach(
                (kind, found) ->
                    page.line(
                        (found.after() > found.before() ? page.alert(kind) : kind)
                            + " in touched rows: "
                            + found.before()
                            + " before, "
                            + found.forecast()
                            + " expected, "
                            + found.after()
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

  private static void printRows(Page page, ApplyReport report) {
    report
        .renumbered()
        .forEach(
            (row, id) ->
                page.line("  " + row + " has ID " + page.strong(id) + " on " + report.into()));
    for (ApplyReport.Followed followed : report.followed()) {
      String what =
          followed.column().isEmpty()
              ? Words.count(followed.rows(), "row") + " of " + followed.table()
              : followed.table() + "." + followed.column();
      page.line(
          "  "
              + what
              + (followed.column().isEmpty()
                  ? (followed.rows() == 1 ? " was " : " were ") + followed.does()
                  : " was " + followed.does() + " in " + Words.count(followed.rows(), "row")));
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
