package weftex.cli.render;

import java.util.List;
import weftex.cli.page.Page;
import weftex.cli.page.Times;
import weftex.cli.page.Words;
import weftex.cli.result.WorkedOutReport;
import weftex.store.compare.WorkedOut;

/** A base that was worked out, for a person. */
public final class WorkedOutText {
  private WorkedOutText() {}

  public static void print(Page page, WorkedOutReport worked) {
    page.words(
        (worked.recorded()
                ? "Recorded a base that is " + page.strong("worked out")
                : "A base can be " + page.strong("worked out"))
            + ": "
            + Words.count(worked.rows(), "row")
            + ", "
            + Times.shown(worked.marked())
            + ".");
    page.words(since(worked));
    page.blank();
    page.table(
        List.of(
            Page.Heading.text("table"),
            Page.Heading.number("alike"),
            Page.Heading.number("by evidence"),
            Page.Heading.number("questions")),
        worked.tables().stream()
            .map(
                table ->
                    List.of(
                        table.table(),
                        String.valueOf(table.alike()),
                        number(differing(table) - table.questions()),
                        number(table.questions())))
            .toList());
    page.blank();
    for (WorkedOut.Found table : worked.tables()) {
      table
          .because()
          .forEach(
              (why, rows) ->
                  page.words(table.table() + ", " + Words.count(rows, "row") + ": " + why));
    }
    page.blank();
    page.words(next(worked));
  }

  private static String since(WorkedOutReport worked) {
    if (worked.parted().isEmpty()) {
      return "No row says when it was changed, so only the IDs tell what came since the copies parted.";
    }
    return (worked.said()
            ? "What was changed after " + worked.parted()
            : "The latest change that both copies have is of "
                + worked.parted()
                + "; what was changed later")
        + ", and IDs above those that both have, came about since they parted.";
  }

  private static long differing(WorkedOut.Found table) {
    return table.because().values().stream().mapToLong(Long::longValue).sum();
  }

  private static String number(long count) {
    return count == 0 ? "" : String.valueOf(count);
  }

  private static String next(WorkedOutReport worked) {
    String questions =
        worked.questions() == 0
            ? ""
            : Words.count(worked.questions(), "row")
                + " will be asked about in the review, where nothing says which copy changed it. ";
    return worked.recorded()
        ? questions
            + "Nothing is removed on this base without a decision."
            + (worked.replaces() ? " The base before is kept ('weftex mark --back')." : "")
            + " Next: weftex compare"
        : questions
            + "Nothing was recorded yet. If you know when the copies parted, say --parted. Next: weftex mark"
            + " --worked-out --yes";
  }
}
