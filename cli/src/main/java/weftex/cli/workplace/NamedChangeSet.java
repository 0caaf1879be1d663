package weftex.cli.workplace;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.apache.commons.cli.CommandLine;
import weftex.cli.session.Session;
import weftex.store.Refusal;
import weftex.store.changeset.DecisionLog;
import weftex.store.state.StateFolder;

/** The change set that a command is about. */
public final class NamedChangeSet {
  private NamedChangeSet() {}

  /** The change set that is named, or else the one that was drafted last. */
  public static Path of(CommandLine line, Workplace place) throws Refusal, IOException {
    return of(line, place.session(), place.state());
  }

  /** The same, before anything is known of the pair but where it is. */
  public static Path of(CommandLine line, Session session) throws Refusal, IOException {
    return of(line, session, Workplace.state(line, session));
  }

  /** Takes away what a full disk or a loss of power left of a decision, and says so. */
  public static void mend(Path changeSet, Session session) throws Refusal, IOException {
    if (DecisionLog.mend(changeSet, session.user(), session.keys())) {
      session
          .err()
          .println(
              "weftex: The last line of "
                  + changeSet.getFileName()
                  + " had been cut off while it was written, and was taken away. What was decided"
                  + " before it stands.");
    }
  }

  private static Path of(CommandLine line, Session session, StateFolder state)
      throws Refusal, IOException {
    List<String> names = line.getArgList();
    if (names.size() > 1) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "More than one change set is named. Nothing was changed.",
          "Name one.");
    }
    if (!names.isEmpty()) {
      return StateFolder.kept(session.folder().resolve(names.get(0)));
    }
    Path newest =
        state
            .newestChangeSet()
            .orElseThrow(
                () ->
                    new Refusal(
                        Refusal.Kind.NOTHING,
                        "There is no change set yet. Nothing was changed.",
                        "Write one with 'weftex draft'."));
    return newest;
  }

  /** How a command is told that a change set is meant: nothing for the newest. */
  public static String argument(Workplace place, Path file) throws IOException {
    boolean newest =
        place
            .state()
            .newestChangeSet()
            .filter(n -> n.toAbsolutePath().normalize().equals(file.toAbsolutePath().normalize()))
            .isPresent();
    return newest ? "" : " " + place.shown(file);
  }
}
