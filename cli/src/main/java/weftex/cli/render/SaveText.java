package weftex.cli.render;

import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import weftex.cli.result.RestoreReport;
import weftex.cli.result.SaveReport;
import weftex.store.dump.Restoring;

/** Prints what was saved and restored. */
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
            + Sizes.shown(saved.bytes())
            + ", in "
            + String.format(Locale.ROOT, "%.1f s", saved.seconds())
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

  /** Prints what was restored. */
  public static void print(Page page, RestoreReport restored) {
    String copy = restored.copy();
    if (restored.does().equals("removed")) {
      page.line("Removed what was set aside of " + copy + ".");
      return;
    }
    if (restored.does().equals("back")) {
      page.line("Put the tables of " + copy + " that were set aside back in their place.");
      page.line(page.faint("Next: weftex check"));
      return;
    }
    page.line(
        "Restored "
            + page.strong(copy)
            + " as of "
            + Times.shown(restored.taken())
            + ": "
            + tablesAndRows(restored.tables(), restored.rows())
            + ".");
    page.words(
        "The tables before are set aside: 'weftex restore "
            + copy
            + " --back' returns to them, 'weftex restore "
            + copy
            + " --remove-aside' removes them.");
    page.line(page.faint("Next: look at the site, then weftex check"));
  }

  /** What a restore takes away, as a sentence lists it. */
  public static String since(Map<String, Restoring.Since> since) {
    return since.entrySet().stream()
        .map(
            table ->
                table.getKey()
                    + (table.getValue().added() > 0
                        ? " " + table.getValue().added() + " added"
                        : "")
                    + (table.getValue().edited() > 0
                        ? " " + table.getValue().edited() + " edited"
                        : ""))
        .collect(Collectors.joining(", "));
  }

  private static String tablesAndRows(long tables, long rows) {
    return tables
        + (tables == 1 ? " table, " : " tables, ")
        + String.format(Locale.ROOT, "%,d", rows)
        + (rows == 1 ? " row" : " rows");
  }
}
