package weftex.cli.render;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.page.Words;
import weftex.cli.result.FilesReport;
import weftex.store.apply.ApplyOutcome;

/** Prints which files go along. */
final class FilesText {
  private static final int NAMED = 3;

  private FilesText() {}

  static void print(Page page, FilesReport files, String from) {
    if (files.all() > 0) {
      List<String> counts = new ArrayList<>();
      count(counts, files.adds(), "new");
      count(counts, files.updates(), "to replace");
      count(counts, files.removes(), "to remove");
      page.line(
          "Files: "
              + String.join(", ", counts)
              + "; "
              + Sizes.shown(files.bytes())
              + (files.conflicts() > 0
                  ? "; " + page.alert(Words.count(files.conflicts(), "conflict"))
                  : "")
              + ".");
    }
    files.renamed().entrySet().stream()
        .limit(NAMED)
        .forEach(
            file ->
                page.words(
                    2,
                    Page.shortened(file.getKey(), 70)
                        + " becomes "
                        + page.strong(Page.shortened(file.getValue(), 70))
                        + ", since another file has that name."));
    if (files.renamed().size() > NAMED) {
      page.line("  … and " + (files.renamed().size() - NAMED) + " more that get another name.");
    }
    printLeft(page, files, from);
  }

  /** What is missing, and what stays. */
  private static void printLeft(Page page, FilesReport files, String from) {
    if (!files.missing().isEmpty()) {
      page.words(
          "Rows name "
              + Words.count(files.missing().size(), "file")
              + " that "
              + from
              + " does not have: "
              + named(files.missing())
              + ".");
    }
    Map<String, List<String>> why = new TreeMap<>();
    files
        .left()
        .forEach((path, reason) -> why.computeIfAbsent(reason, r -> new ArrayList<>()).add(path));
    why.forEach(
        (reason, paths) -> page.words("Stays where it is: " + named(paths) + "; " + reason + "."));
    if (!files.problem().isEmpty()) {
      page.words("Files are not looked at: " + files.problem() + ".");
    }
  }

  /** Prints what became of files. */
  static void print(Page page, ApplyOutcome.FileCounts files) {
    List<String> counts = new ArrayList<>();
    count(counts, files.added(), "brought");
    count(counts, files.replaced(), "replaced");
    count(counts, files.removed(), "removed");
    if (!counts.isEmpty()) {
      page.line("Files: " + String.join(", ", counts) + "; each was read back and verified.");
    }
    files
        .leftAlone()
        .forEach(
            left ->
                page.line(
                    page.alert("Left alone: ")
                        + Page.shortened(left.key(), 70)
                        + " "
                        + left.what()
                        + "."));
  }

  /** Prints what was taken back of files. */
  static void printBack(Page page, ApplyOutcome.FileCounts files) {
    List<String> counts = new ArrayList<>();
    count(counts, files.removed(), "removed");
    count(
        counts,
        files.replaced(),
        "with " + (files.replaced() == 1 ? "its" : "their") + " old content");
    count(counts, files.added(), "brought back");
    if (!counts.isEmpty()) {
      page.line("Files: " + String.join(", ", counts) + ".");
    }
  }

  private static void count(List<String> counts, long count, String what) {
    if (count > 0) {
      counts.add(count + " " + what);
    }
  }

  private static String named(List<String> paths) {
    String some =
        String.join(
            ", ", paths.stream().limit(NAMED).map(path -> Page.shortened(path, 70)).toList());
    return some + (paths.size() > NAMED ? " and " + (paths.size() - NAMED) + " more" : "");
  }
}
