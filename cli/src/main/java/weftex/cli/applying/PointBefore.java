package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Path;
import weftex.cli.page.Progress;
import weftex.cli.page.Sizes;
import weftex.cli.session.Session;
import weftex.cli.workplace.Workplace;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.dump.CopySaver;
import weftex.store.dump.RestorePoints;

/** The restore point that is written before an apply. */
final class PointBefore {
  private PointBefore() {}

  /** Live as it is just before it is written to, if weftex.yaml asks for that. */
  static void save(Workplace place, Session session, Copy target) throws Refusal, IOException {
    boolean asked =
        place.pair().restorePoints().beforeApply()
            && target.name().equals("live")
            && target.spec().origin().isEmpty();
    if (!asked) {
      return;
    }
    RestorePoints points = place.restorePoints();
    Path file = points.newFile(target.name());
    try (Progress progress =
        Progress.start(session, "saving " + target.name(), target.roughRows())) {
      CopySaver.Saved saved = points.save(target.spec(), file, progress);
      place.say(
          "Saved "
              + target.name()
              + " to "
              + place.shown(file)
              + " ("
              + Sizes.shown(saved.bytes())
              + "); 'weftex restore "
              + target.name()
              + "' returns to it.");
      saved.left().forEach(left -> place.say("Not saved: " + left + "."));
    } catch (IOException e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "No restore point of "
              + target.name()
              + " could be written: "
              + FailureWords.of(e)
              + ". Nothing was changed.",
          "Make room for it, or take 'before-apply' out of 'restore-points' in weftex.yaml.",
          e);
    }
  }

  /** Removes those that weftex.yaml does not ask to keep. */
  static void tidy(Workplace place, Copy target) {
    try {
      for (RestorePoints.Point point :
          place.restorePoints().tidy(target.name(), place.pair().restorePoints().limits())) {
        place.say("Removed the restore point " + place.shown(point.file()) + ".");
      }
    } catch (IOException e) {
      place.say("Older restore points could not be removed: " + FailureWords.of(e) + ".");
    }
  }
}
