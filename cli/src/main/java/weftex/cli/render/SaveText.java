package weftex.cli.render;

import java.util.Locale;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.result.SaveReport;

/** Prints what was saved. */
public final class SaveText {
  private SaveText() {}

  /** Prints what was saved. */
  public static void print(Page page, SaveReport saved) {
    page.line(
        "Saved "
            + page.strong(saved.copy())
            + ": "
            + tablesAndRows(saved.rows().size(), saved.all())
            + ", "
            + Sizes.shown(saved.took())
            + ".");
    saved.left().forEach(left -> page.words(2, "Not saved", left));
    page.line("File: " + saved.file());
    page.line(
        page.faint(
            saved
                .restore()
                .map(command -> "Next: '" + command + "' puts it back.")
                .orElse("Next: the database's own client loads it into a database of its own.")));
  }

  static String tablesAndRows(long tables, long rows) {
    return tables
        + (tables == 1 ? " table, " : " tables, ")
        + String.format(Locale.ROOT, "%,d", rows)
        + (rows == 1 ? " row" : " rows");
  }
}
