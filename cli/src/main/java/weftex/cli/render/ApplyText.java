package weftex.cli.render;

import java.util.Optional;
import weftex.cli.page.ItemText;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.page.Words;
import weftex.cli.result.ApplyReport;
import weftex.store.engine.Drift;

/** Prints what became of an apply. */
public final class ApplyText {
  private ApplyText() {}

  /**
   * Prints it.
   *
   * @param rows whether single rows are listed, too
   * @param toImport the file by which the changes come to a copy that is a file
   */
  public static void print(Page page, ApplyReport report, boolean rows, Optional<String> toImport) {
    if (report instanceof ApplyReport.Applied applied) {
      print(page, applied, rows, toImport);
    } else if (report instanceof ApplyReport.AlreadyApplied before) {
      page.line(
          "This change set was applied on "
              + before.at()
              + " (receipt "
              + before.receipt()
              + "). Nothing was done.");
    } else if (report instanceof ApplyReport.Nothing none) {
      page.line(
          "Nothing of "
              + none.where().file()
              + " is to be made on "
              + none.where().into()
              + ". Nothing was changed.");
    } else if (report instanceof ApplyReport.Drifted drifted) {
      print(page, drifted);
    }
  }

  private static void print(
      Page page, ApplyReport.Applied report, boolean rows, Optional<String> toImport) {
    String into = report.where().into();
    printCounts(page, report, toImport.isPresent());
    FilesText.print(page, report.files());
    ItemText.printMade(page, report.made());
    report.after().altered().forEach(drift -> page.line("  " + place(drift) + ": " + drift.what()));
    if (rows) {
      printRows(page, report);
    }
    report
        .after()
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
                        + into
                        + "' names them"));
    page.line("Receipt: " + report.receipt() + page.faint(" (" + Sizes.shown(report.took()) + ")"));
    printNext(page, report, toImport, into);
  }

  private static void printNext(
      Page page, ApplyReport.Applied report, Optional<String> toImport, String into) {
    if (!report.after().steps().isEmpty()) {
      page.blank();
      page.line("Left for you:");
      report.after().steps().forEach(step -> page.line("  [ ] " + step));
      page.blank();
    }
    page.line(
        page.faint(
            toImport
                .map(
                    file ->
                        "Next: import "
                            + file
                            + " where "
                            + into
                            + " is, export "
                            + into
                            + " again, then weftex apply --confirm")
                .orElse("Next: look at the site; 'weftex undo' takes it back.")));
  }

  private static void printCounts(Page page, ApplyReport.Applied report, boolean toImport) {
    String into = report.where().into();
    if (!report.schema().isEmpty()) {
      page.line(
          (toImport ? "New on " : "Made on ")
              + into
              + ": "
              + String.join(", ", report.schema())
              + ".");
    }
    page.line(
        (toImport ? "Written for import " : "Applied ")
            + page.strong(report.where().from() + " → " + into)
            + ": "
            + report.counts().adds()
            + (report.counts().adds() == 1 ? " row" : " rows")
            + " added, "
            + report.counts().updates()
            + " updated, "
            + report.counts().removes()
            + " removed, in one transaction; every row was read back and verified"
            + (report.after().altered().isEmpty()
                ? "."
                : ". In "
                    + report.after().altered().size()
                    + (report.after().altered().size() == 1 ? " row" : " rows")
                    + " the server itself changed more:"));
  }

  private static void print(Page page, ApplyReport.Drifted report) {
    page.line(
        page.alert("Not applied.")
            + " Rows of "
            + report.where().into()
            + " changed since the review; nothing was written:");
    report.drifts().forEach(drift -> page.line("  " + place(drift) + ": " + drift.what()));
    if (report.moreDrifts() > 0) {
      page.line("  … and " + report.moreDrifts() + " more");
    }
    page.line(page.faint("Next: weftex draft again, and review."));
  }

  private static void printRows(Page page, ApplyReport.Applied report) {
    report
        .renumbered()
        .forEach(
            (row, id) ->
                page.line(
                    "  " + row + " has ID " + page.strong(id) + " on " + report.where().into()));
    for (ApplyReport.Followed followed : report.after().followed()) {
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
