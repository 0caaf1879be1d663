package weftex.cli.render;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.cli.page.InsideText;
import weftex.cli.page.ItemText;
import weftex.cli.page.Page;
import weftex.cli.page.RolesText;
import weftex.cli.page.Values;
import weftex.cli.result.CompareReport;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.row.Value;

/** Prints what a comparison found. */
public final class CompareText {
  private CompareText() {}

  /**
   * The same change with long values cut to where they differ, and without what is not shown, so
   * that many can be kept.
   */
  public static RowChange withoutLongValues(RowChange change) {
    List<Conflict> conflicts =
        change.conflicts().stream().map(CompareText::withoutLongValues).toList();
    return new RowChange(
        change.head(),
        Values.cut(change.before(), List.of(change.after())),
        Values.cut(change.after(), List.of(change.before())),
        Map.of(),
        conflicts);
  }

  /** An added or removed row is told by what it holds. */
  private static RowChange withoutEmptyValues(RowChange change) {
    return change.action() == Action.UPDATE
        ? change
        : new RowChange(
            change.head(),
            held(change.before()),
            held(change.after()),
            change.drafted(),
            change.conflicts());
  }

  private static Map<String, Value> held(Map<String, Value> values) {
    Map<String, Value> held = new LinkedHashMap<>(values);
    held.values().removeIf(value -> value.isNull() || value.display().isEmpty());
    return held;
  }

  private static Conflict withoutLongValues(Conflict whole) {
    List<Map<String, Value>> sides = List.of(whole.base(), whole.source(), whole.target());
    return new Conflict(
        whole.kind(),
        whole.binding(),
        whole.columns(),
        Values.cut(whole.base(), sides),
        Values.cut(whole.source(), sides),
        Values.cut(whole.target(), sides),
        Values.cut(whole.otherwise(), sides),
        whole.places(),
        whole.reason());
  }

  private static void printDirection(Page page, CompareReport compared) {
    page.line(
        page.strong(compared.copies().from() + " → " + compared.copies().into())
            + compared
                .copies()
                .base()
                .map(base -> "   base: " + base)
                .orElse("   without a base: every difference is a question"));
    page.blank();
  }

  /** The table of tables. */
  public static void printTables(Page page, CompareReport compared) {
    printDirection(page, compared);
    List<List<String>> rows = new ArrayList<>();
    long unchanged = 0;
    List<String> leftOut = new ArrayList<>();
    for (CompareReport.TableCompared table : compared.tables()) {
      if (!table.chosen()) {
        leftOut.add(
            table.name()
                + " ("
                + (table.role().equals("content") ? "not chosen" : table.role())
                + ")");
      }
      if (table.isUnchanged()) {
        unchanged++;
        continue;
      }
      rows.add(row(table));
    }
    printRows(page, compared, rows);
    page.blank();
    printRest(page, compared, unchanged, leftOut);
    page.blank();
    ItemText.print(
        page, compared.things().items(), compared.things().itemsBeyond(), compared.copies().into());
    FilesText.print(page, compared.files(), compared.copies().from());
    InsideText.print(page, compared.inside(), compared.copies().into());
    printNext(page, compared);
  }

  /** What stands below the table. */
  private static void printRest(
      Page page, CompareReport compared, long unchanged, List<String> leftOut) {
    if (unchanged > 0) {
      page.line(
          unchanged
              + (unchanged == 1 ? " table is" : " tables are")
              + " unchanged on both copies.");
    }
    if (!leftOut.isEmpty()) {
      page.words(
          "* Left out of a draft unless asked for by name: " + String.join(", ", leftOut) + ".");
    }
    compared
        .notCompared()
        .forEach((name, why) -> page.words("Not compared: " + name + ", " + why + "."));
    RolesText.print(page, compared.roles(), compared.copies().into());
  }

  private static void printRows(Page page, CompareReport compared, List<List<String>> rows) {
    if (rows.isEmpty()) {
      page.line("No table differs.");
    } else {
      String from = compared.copies().from() + " ";
      String into = compared.copies().into() + " ";
      page.table(
          List.of(
              Page.Heading.text("table"),
              Page.Heading.number("same"),
              Page.Heading.number(from + "added"),
              Page.Heading.number("updated"),
              Page.Heading.number("removed"),
              Page.Heading.number(into + "added"),
              Page.Heading.number("updated"),
              Page.Heading.number("removed"),
              Page.Heading.number("conflicts")),
          rows);
    }
  }

  private static List<String> row(CompareReport.TableCompared table) {
    return List.of(
        table.name() + (table.chosen() ? "" : " *"),
        number(table.same()),
        number(table.source().added()),
        number(table.source().updated()),
        number(table.source().removed()),
        number(table.target().targetAdded()),
        number(table.target().targetUpdated()),
        number(table.target().targetRemoved()),
        number(table.conflicts()));
  }

  private static void printNext(Page page, CompareReport compared) {
    boolean any =
        compared.tables().stream()
            .anyMatch(
                t ->
                    t.chosen()
                        && t.source().added() + t.source().updated() + t.source().removed() > 0);
    if (any && compared.things().items().isEmpty()) {
      page.line("Nothing is left to bring to " + compared.copies().into() + ".");
    } else if (any) {
      page.line(page.faint("Next: weftex compare --table NAME for the rows, or weftex draft"));
    }
  }

  private static String number(long count) {
    return count == 0 ? "·" : String.format(java.util.Locale.ROOT, "%,d", count);
  }

  /** The changed rows of one table. */
  public static void printRows(
      Page page,
      CompareReport compared,
      String table,
      List<SchemaChange> schema,
      List<RowChange> rows) {
    printDirection(page, compared);
    for (SchemaChange change : schema) {
      page.line("  " + SchemaText.title(page, change));
    }
    if (rows.isEmpty() && schema.isEmpty()) {
      page.line("Nothing of " + table + " would change on " + compared.copies().into() + ".");
      return;
    }
    ChangeText text =
        new ChangeText(page, compared.copies().from(), compared.copies().into(), false);
    for (RowChange row : rows) {
      String offered = row.offered() ? page.faint("offered: ") : "";
      page.words(2, offered + text.title(row));
      text.columns(withoutEmptyValues(row));
    }
    if (compared.listed().more() > 0) {
      page.line("… and " + compared.listed().more() + " more; --limit shows more of them.");
    }
  }
}
