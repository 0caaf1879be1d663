package weftex.cli.drafting;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import org.apache.commons.cli.CommandLine;
import weftex.cli.session.Session;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Workplace;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.signoff.Decision;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.seal.Receivers;

/** Where a draft is written to. */
final class DraftFile {
  static final String OVERWRITE = "overwrite";

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ISO_LOCAL_DATE.withZone(ZoneOffset.UTC);

  private DraftFile() {}

  /**
   * The file that a command line names, or a new one.
   *
   * @throws Refusal if it is there and can't be replaced
   */
  static Path of(CommandLine line, Session session, Workplace place, Receivers receivers)
      throws Refusal, IOException {
    if (line.hasOption("out")) {
      Path file = session.folder().resolve(line.getOptionValue("out"));
      // What --again brings up to date keeps its decisions, so it may go where it was.
      boolean itself = line.hasOption("again") && file.equals(NamedChangeSet.of(line, place));
      if (Files.exists(file) && !itself) {
        checkReplaceable(file, place, line.hasOption(OVERWRITE));
      }
      return file;
    }
    return fresh(session, place, receivers);
  }

  /** A draft may be written anew; what people decided, and other files, may not be lost. */
  private static void checkReplaceable(Path file, Workplace place, boolean overwrite)
      throws Refusal {
    boolean held;
    if (!Files.isRegularFile(file)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          place.shown(file) + " is no ordinary file. Nothing was changed.",
          "Name another one with -o.");
    }
    if (overwrite) {
      return;
    }
    try {
      ChangeSetContents contents = ChangeSetFile.read(file, place.keys()).contents();
      held =
          !contents.approvals().isEmpty()
              || !contents.decisions().stream().allMatch(Decision::isByRule);
    } catch (Refusal e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file) + " is there already and is no whole change set. Nothing was changed.",
          "Name another file, or say --" + OVERWRITE + ".");
    }
    if (held) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file)
              + " holds decisions that a new draft would not have. Nothing was changed.",
          "Name another file, bring it up to date with --again, or say --" + OVERWRITE + ".");
    }
  }

  /** A new file in the state folder. */
  static Path fresh(Session session, Workplace place, Receivers receivers) throws IOException {
    return place.state().newChangeSet(DAY.format(session.clock().instant()), !receivers.isNobody());
  }
}
