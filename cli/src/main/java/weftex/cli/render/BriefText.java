package weftex.cli.render;

import java.util.List;
import weftex.cli.page.Page;
import weftex.cli.page.Times;
import weftex.cli.page.Words;
import weftex.cli.result.BriefReport;

/** Prints what is said in a line or two. */
public final class BriefText {
  private BriefText() {}

  public static void print(Page page, BriefReport.Paired paired) {
    page.line("Wrote " + page.strong(paired.file()) + ".");
    page.line("  staging  " + paired.staging() + known(paired, "staging"));
    page.line("  live     " + paired.live() + known(paired, "live"));
    page.line(page.faint("Next: weftex check"));
  }

  private static String known(BriefReport.Paired paired, String copy) {
    String address = paired.addresses().get(copy);
    return address == null ? "" : ", known as " + address;
  }

  public static void print(Page page, BriefReport.Joined joined) {
    page.line(
        "Put together "
            + page.strong(joined.from() + " → " + joined.into())
            + ": "
            + joined.changes()
            + " changes, with "
            + Words.count(joined.decisions(), "decision")
            + ". Approvals do not carry over.");
    page.line("Change set: " + joined.file());
    page.line(page.faint("Next: weftex review" + joined.argument()));
  }

  public static void print(Page page, BriefReport.Standing standing) {
    int open = standing.open();
    page.line(
        standing.file()
            + ": "
            + (open == 0
                ? "nothing is left to decide"
                : open + (open == 1 ? " change needs" : " changes need") + " a decision")
            + (standing.approved() ? ", approved." : "."));
    page.line(
        page.faint(
            "Next: weftex "
                + (open == 0 && standing.approved() ? "apply" : "review")
                + standing.argument()
                + (open > 0 || standing.approved() ? "" : " --approve")));
  }

  public static void print(Page page, BriefReport.Signatures written) {
    List<String> names = written.signed();
    if (names.isEmpty()) {
      page.line("Nobody signed anything in it.");
      return;
    }
    page.line(
        "Written to "
            + written.folder()
            + ": "
            + String.join(", ", names)
            + "; beside each its '.sig'.");
    page.line(
        page.faint(
            "Next: ssh-keygen -Y verify -f SIGNERS -I NAME -n weftex -s "
                + written.first()
                + ".sig < "
                + written.first()));
  }

  /**
   * Says where a report is.
   *
   * @param personal the option that shows what was left out
   */
  public static void print(Page page, BriefReport.Page report, String personal) {
    page.line(
        "Report of " + Words.count(report.changes(), "change") + ": " + page.strong(report.file()));
    if (report.hidden() > 0) {
      page.line(
          "Left out: "
              + Words.count(report.hidden(), "value")
              + " of personal data (--"
              + personal
              + " shows "
              + (report.hidden() == 1 ? "it)." : "them)."));
    }
    page.line(
        report.sealedFor().isEmpty()
            ? page.faint("It holds content of the site; give it only to those who may see that.")
            : "Sealed for "
                + String.join(", ", report.sealedFor())
                + ": 'age -d -i KEY' opens it.");
  }

  public static void print(Page page, BriefReport.Confirmed confirmed) {
    boolean ran = confirmed.ran();
    page.words(
        "The apply of "
            + Times.shown(confirmed.at())
            + (ran ? " was imported: " : " was not imported: ")
            + confirmed.place()
            + (ran ? " has it." : " does not have it, and the next comparison goes without it."));
    page.line(
        page.faint(
            ran
                ? "Next: weftex compare"
                : "Next: import the script, export again, and weftex apply --confirm"));
  }

  public static void print(Page page, BriefReport.Bundled bundled) {
    page.line("Written: " + bundled.file());
    page.line(page.faint("Next: look into it, and send it along with what you asked for."));
  }

  public static void print(Page page, BriefReport.Guessed guessed) {
    if (guessed.file().isEmpty()) {
      guessed.text().lines().forEach(page::line);
      return;
    }
    page.line(
        "Guessed a model of "
            + Words.count(guessed.tables().size(), "table")
            + ": "
            + guessed.file());
    page.line(
        page.faint(
            "Next: go through it, then name it in weftex.yaml (model: " + guessed.file() + ")"));
  }

  public static void print(Page page, BriefReport.Checked checked) {
    page.line(
        "Model "
            + page.strong(checked.model())
            + " can be read: "
            + Words.count(checked.tables(), "table")
            + ".");
    if (!checked.missing().isEmpty()) {
      page.line("Not on " + checked.copy() + ", so these rules do nothing:");
      checked.missing().forEach(what -> page.line("  " + what));
    }
  }

  public static void print(Page page, BriefReport.Demo demo) {
    page.line("The demo is in " + page.strong(demo.folder()) + ".");
    page.line(
        demo.scripts()
            ? "Load site.sql into two databases, and the weeks into one each; the README goes on"
                + " from there."
            : "Go on by hand: cd " + demo.folder() + " && weftex compare");
  }
}
