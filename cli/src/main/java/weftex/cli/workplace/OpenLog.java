package weftex.cli.workplace;

import java.io.IOException;
import java.nio.file.Path;
import weftex.cli.page.Times;
import weftex.cli.session.Session;
import weftex.store.Refusal;
import weftex.store.changeset.DecisionLog;

/** The log of a change set's decisions, held for writing. */
public final class OpenLog {
  private OpenLog() {}

  /**
   * Opens it.
   *
   * @param by who decides
   * @throws Refusal if somebody else holds it, or nothing can be written there
   */
  public static DecisionLog of(Path file, Workplace place, String by, Session session)
      throws Refusal, IOException {
    DecisionLog.Opened opened =
        DecisionLog.open(file, by + ", since " + Times.shown(session.now()), session.keys());
    if (opened.log().isPresent()) {
      return opened.log().get();
    }
    throw opened.holder().isPresent()
        ? new Refusal(
            Refusal.Kind.PROTECTED,
            place.shown(file)
                + " is being reviewed elsewhere ("
                + opened.holder().get()
                + "). No decision was written.",
            "Wait until that review is closed, and say it again.")
        : new Refusal(
            Refusal.Kind.WRONG_INPUT,
            place.shown(file) + ", or its folder, can't be written to. No decision was written.",
            "Check their permissions, or copy the file to a folder of your own.");
  }
}
