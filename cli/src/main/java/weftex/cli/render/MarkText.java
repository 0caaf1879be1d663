package weftex.cli.render;

import java.util.ArrayList;
import java.util.List;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.page.Times;
import weftex.cli.page.Words;
import weftex.cli.result.MarkReport;
import weftex.store.capture.Bases;
import weftex.store.compare.Likeness;
import weftex.store.file.FileRecord;

/** What {@code mark} found and did, for a person. */
public final class MarkText {
  private MarkText() {}

  public static void print(Page page, MarkReport mark) {
    if (mark.base().recorded()) {
      page.words(
          "Recorded "
              + page.strong(mark.copies().from())
              + " as the base: "
              + Words.count(mark.contents().rows(), "row")
              + " of "
              + Words.count(mark.contents().tables(), "table")
              + ", "
              + Times.shown(mark.base().marked())
              + page.faint(" (" + Sizes.shown(mark.took()) + ")")
              + ".");
    } else {
      page.line(
          page.alert("The copies are not alike")
              + ", so no base was recorded. "
              + (mark.base().replaces()
                  ? "The base that is there stays."
                  : "Nothing was changed."));
    }
    if (!mark.likeness().apart().isEmpty()) {
      table(page, mark.likeness().apart(), mark.copies().from(), mark.copies().other());
    } else if (mark.likeness().own().isEmpty()) {
      page.line(mark.copies().other() + " has the same content.");
    } else {
      page.words(
          mark.copies().other()
              + " has the same content, but for what is live's own: "
              + String.join(", ", mark.likeness().own().stream().map(MarkText::own).toList())
              + ".");
    }
    if (!mark.contents().leftOut().isEmpty()) {
      page.words("Left out as noise: " + String.join(", ", mark.contents().leftOut()) + ".");
    }
    mark.files().ifPresent(files -> page.words(files(mark, files)));
    if (!mark.filesProblem().isEmpty()) {
      page.words("Files were not looked at: " + mark.filesProblem() + ".");
    }
    page.blank();
    page.words(next(mark));
  }

  private static String files(MarkReport mark, FileRecord.Recorded files) {
    return "Files that rows name: "
        + files.files()
        + ", "
        + Sizes.shown(files.bytes())
        + (files.differing() > 0
            ? "; "
                + files.differing()
                + (files.differing() == 1 ? " differs" : " differ")
                + " between the copies: there each copy's own stays until somebody replaces it"
            : "")
        + (files.missing() > 0
            ? "; " + files.missing() + " that " + mark.copies().from() + " does not have"
            : "")
        + ".";
  }

  private static String next(MarkReport mark) {
    if (!mark.base().recorded()) {
      return "A base must be what both copies have: a difference that is in it would never be merged."
          + " Make staging from live again, or take the differences away, and record it then. If you"
          + " know that all of them came about on live since the copies parted, add"
          + " --although-different; if on staging, --from live --although-different. If both went on"
          + " and no base is left, 'weftex mark --worked-out' finds out what both had.";
    }
    return (mark.base().replaces() ? "The base before is kept ('weftex mark --back'). " : "")
        + "Next: edit on staging, then 'weftex compare'.";
  }

  /** How copies differ, by table. */
  static void table(Page page, List<Likeness.Difference> apart, String recorded, String other) {
    page.blank();
    List<List<String>> rows = new ArrayList<>();
    for (Likeness.Difference difference : apart) {
      rows.add(
          List.of(
              difference.what(),
              number(difference.onlyRecorded()),
              number(difference.different()),
              number(difference.onlyOther()),
              String.join(", ", difference.examples())));
    }
    page.table(
        List.of(
            Page.Heading.text("table"),
            Page.Heading.number("only on " + recorded),
            Page.Heading.number("different"),
            Page.Heading.number("only on " + other),
            Page.Heading.text("such as")),
        rows);
    page.blank();
  }

  private static String number(long count) {
    return count == 0 ? "" : String.valueOf(count);
  }

  private static String own(Likeness.Difference own) {
    List<String> counts = new ArrayList<>();
    if (own.onlyOther() > 0) {
      counts.add(own.onlyOther() + " more");
    }
    if (own.different() > 0) {
      counts.add(own.different() + " changed");
    }
    return own.what() + " (" + String.join(", ", counts) + ")";
  }

  /** A return to an earlier base. */
  public static void printBack(Page page, Bases.Earlier base) {
    page.words(
        "The base is again "
            + page.strong(base.copy())
            + " of "
            + Times.shown(base.marked())
            + ". What was merged since is known from the receipts; the base that was in force is kept.");
  }
}
