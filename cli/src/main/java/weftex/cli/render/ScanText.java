package weftex.cli.render;

import java.util.List;
import java.util.Locale;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.page.Words;
import weftex.cli.result.ScanReport;
import weftex.store.scan.FolderScan;

/** Prints what is wrong in a copy. */
public final class ScanText {
  private ScanText() {}

  public static void print(Page page, ScanReport report) {
    page.line(
        page.strong(report.copy())
            + "   "
            + report.place()
            + ": "
            + String.format(Locale.ROOT, "%,d", report.rows())
            + " rows of "
            + report.tables()
            + " tables");
    page.blank();
    List<ScanReport.Sort> wrong = report.sorts().stream().filter(s -> !s.isNoise()).toList();
    List<ScanReport.Sort> noise = report.sorts().stream().filter(ScanReport.Sort::isNoise).toList();
    String kind = "";
    for (ScanReport.Sort sort : wrong) {
      if (!sort.kind().equals(kind)) {
        kind = sort.kind();
        page.line(page.alert(kind) + ": " + sort.means());
      }
      sort(page, sort);
    }
    if (report.isClean()) {
      page.line("Nothing is wrong in what is content.");
    }
    if (!noise.isEmpty()) {
      page.blank();
      page.line("In noise, permanent identifiers and settings of the copy, where it hurts nobody:");
      for (ScanReport.Sort sort : noise) {
        page.line(
            "  " + sort.kind() + ", " + sort.table() + "." + sort.column() + ": " + rows(sort));
      }
    }
    report.folders().ifPresent(folders -> folders(page, folders));
    report
        .notLookedFor()
        .forEach(
            (what, why) ->
                page.words(page.faint("Not looked for: " + what + ", since " + why + ".")));
  }

  private static void folders(Page page, FolderScan folders) {
    page.blank();
    page.line(
        "Folders of files: "
            + Words.count(folders.files(), "file")
            + ", "
            + Sizes.shown(folders.bytes())
            + ".");
    page.line(
        "  No row names "
            + Words.count(folders.unusedFiles(), "file")
            + ", "
            + Sizes.shown(folders.unusedBytes())
            + (folders.unusedFiles() == 0 ? "." : ":"));
    folders.unused().forEach(path -> page.line("    " + Page.shortened(path, 90)));
    if (folders.unusedFiles() > folders.unused().size()) {
      page.line(page.faint("    … --limit names more of them"));
    }
    page.line(
        "  The same is there more than once: "
            + Words.count(folders.duplicateGroups(), "content")
            + ", "
            + Sizes.shown(folders.duplicateBytes())
            + " too many"
            + (folders.duplicateGroups() == 0 ? "." : ":"));
    folders
        .duplicates()
        .forEach(
            group ->
                page.words(
                    4,
                    String.join(
                        " = ", group.stream().map(path -> Page.shortened(path, 70)).toList())));
    if (folders.duplicateGroups() > folders.duplicates().size()) {
      page.line(page.faint("    … --limit names more of them"));
    }
  }

  private static void sort(Page page, ScanReport.Sort sort) {
    String whose = sort.whose().equals("content") ? "" : " (" + sort.whose() + ")";
    page.line("  " + page.strong(sort.table() + "." + sort.column()) + whose + ": " + rows(sort));
    for (ScanReport.First first : sort.first()) {
      page.line("    " + first.key() + page.faint(" · " + Page.shortened(first.what(), 90)));
    }
    if (sort.rows() > sort.first().size()) {
      page.line(page.faint("    … --limit names more of them"));
    }
  }

  private static String rows(ScanReport.Sort sort) {
    boolean forms = sort.hits().size() > 1 || !sort.hits().containsKey("");
    return String.format(Locale.ROOT, "%,d", sort.rows())
        + (sort.rows() == 1 ? " row" : " rows")
        + (forms
            ? " ("
                + String.join(
                    ", ",
                    new java.util.TreeMap<>(sort.hits())
                        .entrySet().stream().map(e -> e.getKey() + " " + e.getValue()).toList())
                + ")"
            : "");
  }
}
