package weftex.cli.render;

import weftex.cli.page.Page;
import weftex.cli.page.Words;
import weftex.cli.result.FromFileReport;

/** A base that was recorded from a backup, for a person. */
public final class FromFileText {
  private FromFileText() {}

  public static void print(Page page, FromFileReport mark) {
    page.words(
        "Recorded "
            + page.strong(mark.file())
            + " as the base, which is "
            + mark.of()
            + " as it was then: "
            + Words.count(mark.rows(), "row")
            + " of "
            + Words.count(mark.tables(), "table")
            + ".");
    if (mark.likeness().isAlike()) {
      page.words(mark.other() + " has the same content still.");
    } else {
      page.words(
          mark.other()
              + " has "
              + mark.alike()
              + " of these rows as they were; what differs is an edit of its own:");
      MarkText.table(page, mark.likeness().apart(), "the file", mark.other());
    }
    if (!mark.leftOut().isEmpty()) {
      page.words("Left out as noise: " + String.join(", ", mark.leftOut()) + ".");
    }
    page.words(
        (mark.replaces() ? "The base before is kept ('weftex mark --back'). " : "")
            + "Next: weftex compare");
  }
}
