package weftex.cli.render;

import weftex.cli.page.InsideText;
import weftex.cli.page.Page;
import weftex.cli.page.RolesText;
import weftex.cli.page.Sizes;
import weftex.cli.page.Words;
import weftex.cli.result.DraftReport;

/** Prints what was drafted. */
public final class DraftText {
  private DraftText() {}

  /** Prints. */
  public static void print(Page page, DraftReport drafted) {
    page.line(
        "Drafted "
            + page.strong(drafted.set().from() + " → " + drafted.set().into())
            + ": "
            + drafted.made().adds()
            + " to add, "
            + drafted.made().updates()
            + " to update, "
            + drafted.made().removes()
            + " to remove.");
    if (!drafted.made().schema().isEmpty()) {
      page.line(
          "To be made first on "
              + drafted.set().into()
              + ": "
              + String.join(", ", drafted.made().schema())
              + ".");
    }
    FilesText.print(page, drafted.files(), drafted.set().from());
    if (drafted.open().ruled() > 0) {
      page.line("Rules of weftex.yaml decided " + counted(drafted.open().ruled(), "change") + ".");
    }
    if (!drafted.decided().kept().isEmpty()) {
      page.words(
          "Stays as "
              + drafted.set().into()
              + " has it, since both changed it: "
              + String.join(", ", drafted.decided().kept())
              + ".");
    }
    if (drafted.decided().carried() > 0) {
      page.line(
          counted(drafted.decided().carried(), "decision") + " of the earlier draft still hold.");
    }
    drafted.decided().fallen().forEach(fallen -> print(page, drafted, fallen));
    printOpen(page, drafted);
    RolesText.print(page, drafted.roles(), drafted.set().into());
    InsideText.print(page, drafted.inside(), drafted.set().into());
    printFile(page, drafted);
  }

  private static void printFile(Page page, DraftReport drafted) {
    page.line(
        "Change set: "
            + drafted.set().file()
            + page.faint(" (" + Sizes.shown(drafted.took()) + ")"));
    if (!drafted.sealed().sealedFor().isEmpty()) {
      page.line(
          "Sealed for "
              + String.join(", ", drafted.sealed().sealedFor())
              + ": nobody else can read it"
              + (drafted.sealed().openable()
                  ? "."
                  : ", not even you with the keys that are known here."));
    }
    page.line(page.faint("Next: weftex review" + drafted.set().argument()));
  }

  private static void printOpen(Page page, DraftReport drafted) {
    if (drafted.open().conflicts() > 0) {
      page.line(
          page.alert(
              counted(drafted.open().conflicts(), "change")
                  + (drafted.open().conflicts() == 1 ? " needs" : " need")
                  + " a decision."));
    }
    if (drafted.open().offered() > 0) {
      page.line(
          drafted.open().offered()
              + (drafted.open().offered() == 1 ? " more change is" : " more changes are")
              + " offered: what chosen ones refer to, or what shows them.");
    }
  }

  private static void print(Page page, DraftReport drafted, DraftReport.Fallen fallen) {
    page.line(
        page.alert("Fell away: ")
            + Words.answer(fallen.answer(), drafted.set().from(), drafted.set().into())
            + (fallen.column().isEmpty() ? "" : " in " + fallen.column())
            + " for "
            + Page.shortened(fallen.thing(), 60)
            + ", said by "
            + Page.shortened(fallen.by(), 40)
            + ",");
    page.line("           since " + fallen.because() + ".");
  }

  private static String counted(long count, String word) {
    return count + " " + word + (count == 1 ? "" : "s");
  }
}
