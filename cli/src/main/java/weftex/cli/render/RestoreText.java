package weftex.cli.render;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.page.Times;
import weftex.cli.page.Words;
import weftex.cli.result.RestoreReport;
import weftex.store.dump.Restoring;

/** Prints what was put in a copy's place. */
public final class RestoreText {
  private RestoreText() {}

  /** Prints what was done. */
  public static void print(Page page, RestoreReport restored) {
    String copy = restored.copy();
    switch (restored.does()) {
      case "removed" -> page.line("Removed what was set aside of " + copy + ".");
      case "back" -> {
        page.line("Put the tables of " + copy + " that were set aside back in their place.");
        page.line(page.faint("Next: weftex check"));
      }
      case "emptied" -> {
        page.line("Took all tables of " + page.strong(copy) + " away.");
        aside(page, copy);
      }
      default -> rows(page, restored);
    }
  }

  private static void rows(Page page, RestoreReport restored) {
    String copy = restored.copy();
    String size =
        ": "
            + SaveText.tablesAndRows(restored.contents().tables(), restored.contents().rows())
            + ", in "
            + Sizes.seconds(restored.seconds())
            + ".";
    if (!restored.database().isEmpty()) {
      page.words("Put it into the database " + page.strong(restored.database()) + size);
      page.words(
          copy
              + " is as it was. To use the new database, write '"
              + restored.database()
              + "' for the old one in weftex.yaml and in the site's own configuration, such as define( 'DB_NAME', '"
              + restored.database()
              + "' ); in a wp-config.php.");
      return;
    }
    if (restored.kept().isEmpty()) {
      page.words(
          "Restored "
              + page.strong(copy)
              + (restored.taken().isEmpty()
                  ? " from " + restored.file()
                  : " as of " + Times.shown(restored.taken()))
              + size);
    } else {
      page.words("Made " + page.strong(copy) + " anew from " + restored.file() + size);
      page.words(kept(copy, restored.kept().get()));
      restored
          .base()
          .ifPresent(
              rows -> page.words("Recorded it as the base: " + Words.count(rows, "row") + "."));
    }
    aside(page, copy);
    page.line(
        page.faint(
            restored.kept().isPresent() && restored.base().isEmpty()
                ? "Next: look at the site, then weftex mark --from-file " + restored.file()
                : "Next: look at the site, then weftex check"));
  }

  /** How much it is, as the end of a sentence. */
  public static String size(long tables, long rows) {
    return SaveText.tablesAndRows(tables, rows) + ".";
  }

  private static void aside(Page page, String copy) {
    page.words(
        "The tables before are set aside: 'weftex restore "
            + copy
            + " --back' returns to them, 'weftex restore "
            + copy
            + " --remove-aside' removes them.");
  }

  /** What a copy keeps of its own, as a sentence. */
  public static String kept(String copy, RestoreReport.Kept kept) {
    List<String> what = new ArrayList<>();
    add(what, kept.settings(), "row", " of settings and keys");
    add(what, kept.secrets(), "password", " of accounts that both copies have");
    add(what, kept.accounts(), "account", " that it alone has");
    String sentence =
        what.isEmpty()
            ? copy + " keeps nothing of its own."
            : copy + " keeps of its own: " + String.join(", ", what) + ".";
    return kept.emptied().isEmpty()
        ? sentence
        : sentence
            + " Left empty, as the site fills them itself: "
            + String.join(", ", kept.emptied())
            + ".";
  }

  private static void add(List<String> what, long count, String word, String behind) {
    if (count > 0) {
      what.add(Words.count(count, word) + behind);
    }
  }

  /** The rows of tables that are taken away, as a sentence lists them. */
  public static String rows(Map<String, Restoring.Since> tables) {
    return tables.isEmpty()
        ? "none has a row"
        : tables.entrySet().stream()
            .map(table -> table.getKey() + " " + Words.count(table.getValue().added(), "row"))
            .collect(Collectors.joining(", "));
  }

  /** What a restore takes away, as a sentence lists it. */
  public static String since(Map<String, Restoring.Since> since) {
    return listed(since, " added", " edited");
  }

  /** What another copy's rows take away, as a sentence lists it. */
  public static String apart(Map<String, Restoring.Since> apart) {
    return listed(apart, " only there", " different");
  }

  private static String listed(Map<String, Restoring.Since> tables, String added, String edited) {
    List<String> words = new ArrayList<>();
    tables.forEach(
        (name, table) ->
            words.add(
                name
                    + (table.added() > 0 ? " " + table.added() + added : "")
                    + (table.edited() > 0 ? " " + table.edited() + edited : "")));
    return String.join(", ", words);
  }
}
