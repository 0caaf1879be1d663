package weftex.cli.render;

import java.util.List;
import java.util.stream.Collectors;
import weftex.cli.page.Page;
import weftex.cli.page.Summary;
import weftex.cli.page.Words;
import weftex.cli.result.ReviewReport;
import weftex.core.signoff.Decision;

/** Prints what was decided, and what an approval is about. */
public final class DecisionsText {
  private static final int HEADING = 12;

  private DecisionsText() {}

  /** Prints the decisions of a change set, in their order. */
  public static void print(Page page, ReviewReport reviewed) {
    if (reviewed.decisions().isEmpty()) {
      page.line("Nothing has been decided yet.");
    }
    for (ReviewReport.Said said : reviewed.decisions()) {
      String changes =
          said.changes().stream().map(String::valueOf).collect(Collectors.joining(","));
      String what =
          Words.answer(said.answer(), reviewed.set().from(), reviewed.set().into())
              + ": "
              + Page.shortened(changes, 40)
              + (said.column().isEmpty() ? "" : " in " + Page.shortened(said.column(), 40))
              + (said.passage() == 0 ? "" : ", passage " + said.passage());
      page.line(
          String.format("%4d  ", said.number())
              + (said.withdrawnBy().isEmpty()
                  ? what
                  : page.faint(
                      what + " (taken back by " + Page.shortened(said.withdrawnBy(), 40) + ")")));
      page.line(
          page.faint(
              "      "
                  + Page.shortened(said.by(), 60)
                  + ", "
                  + said.at().replaceAll("T(\\d\\d:\\d\\d):\\d\\d(\\.\\d+)?Z", " $1 UTC")
                  + (said.why().isEmpty() ? "" : ": " + Page.shortened(said.why(), 400))));
    }
  }

  /** Prints what followed from the answers that were just given. */
  public static void printFollowed(Page page, List<Decision> followed, String from, String into) {
    for (Decision decision : followed) {
      page.line(
          "Follows: "
              + Words.answer(decision.answer(), from, into)
              + ": "
              + Page.shortened(ReviewText.ranges(decision.changes()), 60)
              + page.faint(" (" + decision.why() + ")"));
    }
    if (!followed.isEmpty()) {
      page.blank();
    }
  }

  /** Prints how many changes were left out, since somebody undid them before. */
  public static void printHeldBack(Page page, int changes, String argument) {
    if (changes > 0) {
      page.words(
          (changes == 1 ? "1 change was" : changes + " changes were")
              + " undone before and "
              + (changes == 1 ? "is" : "are")
              + " held back. 'weftex review"
              + argument
              + " --decisions' lists them; '--include' with their numbers makes them again.");
      page.blank();
    }
  }

  /** Prints what is approved. */
  public static void print(Page page, List<Summary.Entry> summary) {
    for (Summary.Entry entry : summary) {
      page.line(
          "  " + page.faint(String.format("%-" + HEADING + "s", entry.heading())) + entry.text());
    }
    if (!summary.isEmpty()) {
      page.blank();
    }
  }
}
