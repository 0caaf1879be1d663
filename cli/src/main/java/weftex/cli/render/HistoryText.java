package weftex.cli.render;

import java.util.List;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.page.Times;
import weftex.cli.page.Visible;
import weftex.cli.result.HistoryReport;

/** Prints what was applied and undone. */
public final class HistoryText {
  /** How many things of an event are named. */
  private static final int NAMED = 4;

  private static final int UNDER_TIME = "2026-11-16 10:00 UTC  ".length();

  private HistoryText() {}

  /** Prints it. */
  public static void print(Page page, HistoryReport history) {
    if (history.events().isEmpty()) {
      page.line("Nothing was applied yet.");
    } else {
      printEvents(page, history);
    }
    for (HistoryReport.Base base : history.bases()) {
      String what = base.of() + " of " + Times.shown(base.at());
      page.line(
          (base.inForce() ? "Base: " + page.strong(what) : "Earlier base: " + what)
              + ", "
              + Sizes.shown(base.bytes()));
    }
    printPoints(page, history.restorePoints());
  }

  private static void printPoints(Page page, List<HistoryReport.RestorePoint> points) {
    for (HistoryReport.RestorePoint point : points) {
      page.line(
          "Restore point: "
              + page.strong(point.copy() + " of " + Times.shown(point.at()))
              + ", "
              + Sizes.shown(point.bytes()));
      page.line(page.faint("  " + point.file()));
    }
  }

  private static void printEvents(Page page, HistoryReport history) {
    for (HistoryReport.Event event : history.events()) {
      page.line(
          Times.shown(event.run().at())
              + "  "
              + page.strong(event.run().kind() + (event.run().part() ? " of a part" : ""))
              + (event.run().undoes().isEmpty() ? " " + event.run().from() + " → " : " on ")
              + event.run().into()
              + ", "
              + event.outcome()
              + event.seconds().map(took -> " in " + Sizes.seconds(took)).orElse("")
              + ": "
              + event.counts().adds()
              + " added, "
              + event.counts().updates()
              + " updated, "
              + event.counts().removes()
              + " removed");
      if (!event.contents().things().isEmpty()) {
        int named = Math.min(NAMED, event.contents().things().size());
        String things =
            Visible.text(String.join(", ", event.contents().things().subList(0, named)))
                + (event.contents().things().size() > named
                    ? " and " + (event.contents().things().size() - named) + " more"
                    : "");
        page.words(UNDER_TIME, things);
      }
      String approved = String.join(", ", event.run().approvedBy());
      page.line(
          page.faint(
              " ".repeat(UNDER_TIME)
                  + "receipt "
                  + event.run().receipt()
                  + " ("
                  + Sizes.shown(event.bytes())
                  + "), by "
                  + event.run().by()
                  + (approved.isEmpty() ? "" : ", approved by " + approved)));
    }
  }
}
