package weftex.cli.render;

import weftex.cli.page.ItemText;
import weftex.cli.page.Page;
import weftex.cli.page.Sizes;
import weftex.cli.result.UndoReport;
import weftex.store.engine.Drift;

/** Prints what became of an undo. */
public final class UndoText {
  private UndoText() {}

  /** {@code 1 added row removed}, {@code 2 added rows removed}. */
  private static String rows(long count, String before, String now) {
    return count + " " + before + (count == 1 ? " row " : " rows ") + now;
  }

  /** Prints it. */
  public static void print(Page page, UndoReport undone) {
    if (undone.receipt().isEmpty()) {
      page.line("There was nothing left to take back on " + page.strong(undone.into()) + ".");
    } else {
      page.line(
          "Undone on "
              + page.strong(undone.into())
              + ": "
              + rows(undone.counts().removed(), "added", "removed")
              + ", "
              + rows(undone.counts().restored(), "updated", "restored")
              + ", "
              + rows(undone.counts().broughtBack(), "removed", "brought back")
              + ".");
      FilesText.printBack(page, undone.files());
      ItemText.printTakenBack(page, undone.things());
      if (!undone.takenAway().isEmpty()) {
        page.line("Taken away again: " + String.join(", ", undone.takenAway()) + ".");
      }
      page.line(
          "Receipt: " + undone.receipt() + page.faint(" (" + Sizes.shown(undone.took()) + ")"));
    }
    if (!undone.leftAlone().isEmpty()) {
      page.blank();
      page.line(page.alert("Left alone, or not as before the apply:"));
      for (Drift drift : undone.leftAlone()) {
        page.line("  " + drift.table() + " " + drift.key() + " " + drift.what());
      }
      page.line(
          page.faint(
              "Next: look at them on "
                  + undone.into()
                  + "; 'weftex undo "
                  + undone.undoes()
                  + " --also-changed' takes edited rows back, too."));
    }
  }
}
