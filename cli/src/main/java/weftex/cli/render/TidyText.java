package weftex.cli.render;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.page.Times;
import weftex.cli.page.Words;
import weftex.cli.result.TidyReport;

/** Prints what can go. */
public final class TidyText {
  /** How many of a kind are named. */
  private static final int NAMED = 3;

  private TidyText() {}

  public static void print(Page page, TidyReport report) {
    for (String scratch : report.scratch()) {
      page.words(
          (report.removed() ? "Removed " : "Can go: ")
              + scratch
              + ", into which a file was loaded that nobody reads any more.");
    }
    clear(page, report);
    compressed(page, report);
    boolean nothing = report.things().isEmpty() && report.scratch().isEmpty();
    if (nothing && report.clear().files().isEmpty() && report.compressed().files().isEmpty()) {
      page.words(
          "Nothing can go: every draft, receipt, earlier base and restore point is younger than "
              + Words.count(report.days(), "day")
              + ", one of the newest, or needed by a base or an undo.");
    } else if (!report.things().isEmpty()) {
      things(page, report);
    }
    for (String copy : report.aside()) {
      page.words(
          "Set aside by the last restore of "
              + copy
              + ": 'weftex restore "
              + copy
              + " --remove-aside' removes it.");
    }
    List<String> does = new ArrayList<>();
    if (!nothing) {
      does.add("removes what can go");
    }
    if (!report.clear().files().isEmpty()) {
      does.add("encrypts what is in the clear");
    }
    if (!report.compressed().files().isEmpty()) {
      does.add("compresses what is old");
    }
    if (!report.removed() && !does.isEmpty()) {
      page.line(page.faint("Next: 'weftex tidy --yes' " + String.join(", ", does) + "."));
    }
  }

  private static void compressed(Page page, TidyReport report) {
    TidyReport.Compressed compressed = report.compressed();
    if (compressed.files().isEmpty()) {
      return;
    }
    page.words(
        (report.removed() ? "Compressed " : "Can be compressed: ")
            + Words.count(compressed.files().size(), "file")
            + " (such as "
            + compressed.files().get(0)
            + "), "
            + Sizes.shown(compressed.before())
            + (report.removed() ? " to " + Sizes.shown(compressed.after()) : "")
            + ". All commands read them as before.");
  }

  private static void clear(Page page, TidyReport report) {
    if (!report.clear().files().isEmpty()) {
      page.words(
          (report.removed() ? "Encrypted " : "In the clear, and to be sealed: ")
              + Words.count(report.clear().files().size(), "file")
              + " (such as "
              + report.clear().files().get(0)
              + ").");
    }
    if (!report.clear().drafts().isEmpty()) {
      page.words(
          Words.count(report.clear().drafts().size(), "draft")
              + (report.clear().drafts().size() == 1 ? " stays" : " stay")
              + " in the clear (such as "
              + report.clear().drafts().get(0)
              + "): sealed, it would not be what was approved any more. Draft again, or remove what"
              + " you don't need.");
    }
  }

  private static void things(Page page, TidyReport report) {
    page.line(
        (report.removed() ? "Removed " : "Can go: ")
            + Words.count(report.things().size(), "file")
            + ", "
            + Sizes.shown(report.bytes())
            + ".");
    Map<String, List<TidyReport.Thing>> kinds = new LinkedHashMap<>();
    for (TidyReport.Thing thing : report.things()) {
      kinds.computeIfAbsent(thing.kind(), kind -> new ArrayList<>()).add(thing);
    }
    kinds.forEach(
        (kind, things) -> {
          page.line("  " + Words.count(things.size(), kind) + ":");
          for (TidyReport.Thing thing : things.subList(0, Math.min(NAMED, things.size()))) {
            page.line(
                "    "
                    + thing.file()
                    + page.faint(
                        ", " + Times.shown(thing.at()) + ", " + Sizes.shown(thing.bytes())));
          }
          if (things.size() > NAMED) {
            page.line(page.faint("    and " + (things.size() - NAMED) + " more"));
          }
        });
    page.words(
        page.faint(
            (report.keep() == 1
                    ? "The newest of each kind stays"
                    : "The " + report.keep() + " newest of each kind stay")
                + ", and whatever a base or an undo needs."));
  }
}
