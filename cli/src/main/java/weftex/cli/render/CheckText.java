package weftex.cli.render;

import java.util.ArrayList;
import java.util.List;
import weftex.cli.page.Page;
import weftex.cli.page.RolesText;
import weftex.cli.page.Words;
import weftex.cli.result.CheckReport;
import weftex.store.compare.Twins;

/** Prints what a check found, the two copies side by side. */
public final class CheckText {
  private CheckText() {}

  public static void print(Page page, CheckReport checked) {
    List<List<String>> copies = printCopies(checked);
    page.table(
        List.of(
            Page.Heading.text("copy"),
            Page.Heading.text("server"),
            Page.Heading.text("place"),
            Page.Heading.text("prefix"),
            Page.Heading.number("tables"),
            Page.Heading.number("others")),
        copies);
    checked
        .copies()
        .forEach(copy -> page.line("The line to " + copy.name() + ": " + copy.line() + "."));
    page.blank();
    printTables(page, checked);
    page.blank();
    RolesText.printUnknown(page, checked.unknown());
    checked.twins().ifPresent(twins -> printTwins(page, twins));
    for (String problem : checked.problems()) {
      page.words(page.alert("Problem:") + " " + problem);
    }
    if (!checked.warnings().isEmpty()) {
      page.line(page.alert("Worth knowing:"));
      checked.warnings().forEach(warning -> page.words(2, warning));
    } else if (checked.problems().isEmpty()) {
      page.line("No problems found.");
    }
    page.blank();
    if (!checked.files().isEmpty()) {
      page.words(checked.files());
    }
    checked.base().ifPresent(base -> page.line("Base: " + base + "."));
    page.words("Next: " + next(checked));
  }

  private static List<List<String>> printCopies(CheckReport checked) {
    List<List<String>> copies = new ArrayList<>();
    for (CheckReport.CopyFound copy : checked.copies()) {
      copies.add(
          List.of(
              copy.name(),
              copy.server(),
              copy.place(),
              copy.prefix().isEmpty() ? "(none)" : copy.prefix(),
              String.valueOf(copy.tables()),
              String.valueOf(copy.otherTables())));
    }
    return copies;
  }

  private static void printTables(Page page, CheckReport checked) {
    List<List<String>> tables = new ArrayList<>();
    for (CheckReport.TableFound table : checked.tables()) {
      tables.add(
          List.of(
              table.name(), table.role(), rows(table.staging()), rows(table.live()), table.note()));
    }
    page.table(
        List.of(
            Page.Heading.text("table"),
            Page.Heading.text("rows are"),
            Page.Heading.number("on staging"),
            Page.Heading.number("on live"),
            Page.Heading.text("")),
        tables);
  }

  private static String next(CheckReport checked) {
    if (!checked.problems().isEmpty()) {
      return "mend the problem, and check again.";
    }
    return checked.base().isPresent()
        ? "'weftex compare' shows what changed since the base."
        : "'weftex mark' records the base while both copies are alike; 'weftex compare' shows what"
            + " changed since.";
  }

  private static void printTwins(Page page, List<Twins> twins) {
    if (twins.isEmpty()) {
      page.line("No row has different IDs on the two copies.");
    }
    for (Twins table : twins) {
      page.line(
          table.table()
              + ": "
              + Words.count(table.pairs(), "row")
              + " under different IDs"
              + (table.lone().isEmpty() ? ", all of them there" : ""));
      for (Twins.Lone lone : table.lone()) {
        page.line(
            "  staging "
                + lone.staging()
                + ", live "
                + lone.live()
                + ": gone on "
                + String.join(" and ", lone.goneOn()));
      }
    }
    page.blank();
  }

  private static String rows(long count) {
    return count < 0 ? "—" : String.format(java.util.Locale.ROOT, "%,d", count);
  }
}
