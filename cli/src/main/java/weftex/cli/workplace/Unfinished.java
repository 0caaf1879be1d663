package weftex.cli.workplace;

import java.io.IOException;
import weftex.cli.page.Times;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.apply.Interrupted;
import weftex.store.copy.Copy;
import weftex.store.engine.Drift;
import weftex.store.placing.FileAccess;
import weftex.store.receipt.Receipt;

/** What a run left that could not come to its end. */
public final class Unfinished {
  private Unfinished() {}

  /**
   * Says what became of an apply or undo that was interrupted earlier.
   *
   * @param waits whether to wait for another run to end
   * @return whether another run is at work on the target, so that this can't be said of all
   */
  public static boolean settle(Workplace place, Copy target, boolean waits)
      throws Refusal, IOException {
    Interrupted.Settled settled =
        new Interrupted(
                place.receipts(),
                new Interrupted.Files() {
                  @Override
                  public FileAccess access(Receipt of) throws Refusal {
                    return Folders.access(place);
                  }

                  @Override
                  public SiteMap means(Copy copy) {
                    return place.siteMap(copy);
                  }
                })
            .settle(target, waits);
    for (Drift left : settled.leftAlone()) {
      place.say("Left alone: the file " + left.key() + " " + left.what() + ".");
    }
    for (Receipt receipt : settled.ended()) {
      boolean done = receipt.outcome() == Receipt.Outcome.COMMITTED;
      place.say(
          "The "
              + receipt.kind()
              + " of "
              + Times.shown(receipt.at())
              + " was interrupted. "
              + target.name()
              + (done ? " has all of its changes." : " has none of its changes."));
    }
    return settled.isBusy();
  }
}
