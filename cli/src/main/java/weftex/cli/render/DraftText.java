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
            + page.strong(drafted.from() + " → " + drafted.into())
            + ": "
            + drafted.adds()
            + " to add, "
            + drafted.updates()
            + " to update, "
            + drafted.removes()
            + " to remove.");
    if (!drafted.schema().isEmpty()) {
      page.line(
          "To be made first on "
              + drafted.into()
              + ": "
              + String.join(", ", drafted.schema())
              + ".");
    }
    FilesText.print(page, drafted.files(), drafted.from());
    if (drafted.ruled() > 0) {
      page.line("Rules of weftex.yaml decided " + counted(drafted.ruled(), "change") + ".");
    }
    if (!drafted.kept().isEmpty()) {
      page.words(
          "Stays as "
              + drafted.into()
              + " has it, since both changed it: "
              + String.join(", ", drafted.kept())
              + ".");
    }
    if (drafted.carried() > 0) {
      page.line(counted(drafted.carried(), "decision") + " of the earlier draft still hold.");
    }
    drafted.fallen().forEach(fallen -> print(page, drafted, fallen));
    printOpen(page, drafted);
    RolesText.print(page, drafted.roles(), drafted.into());
    InsideText.print(page, drafted.inside(), drafted.into());
    printFile(page, drafted);
  }

  private static void printFile(Page page, DraftReport drafted) {
    page.line(
        "Change set: " + drafted.file() + page.faint(" (" + Sizes.shown(drafted.took()) + ")"));
    if (!drafted.sealedFor().isEmpty()) {
      page.line(
          "Sealed for "
              + String.join(", ", drafted.sealedFor())
              + ": nobody else can read it"
              + (drafted.openable() ? "." : ", not even you with the keys that are known here."));
    }
    page.line(page.faint("Next: weftex review" + drafted.argument()));
  }

  private static void printOpen(Page page, DraftReport drafted) {
    if (drafted.conflicts() > 0) {
      page.line(
          page.alert(
              counted(drafted.conflicts(), "change")
                  + (drafted.conflicts() == 1 ? " needs" : " need")
                  + " a decision."));
    }
    if (drafted.offered() > 0) {
      page.line(
          drafted.offered()
              + (drafted.offered() == 1 ? " more change is" : " more changes are")
              + " offered: what chosen ones refer to, or what shows them.");
    }
  }

  private static void print(Page page, DraftReport drafted, DraftReport.Fallen fallen) {
    page.line(
        page.alert("Fell away: ")
            + Words.answer(fallen.answer(), drafted.from(), drafted.into())
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
