package weftex.store.changeset;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import weftex.core.changeset.ChangeSetProblem;
import weftex.core.changeset.ChangeSetReader;
import weftex.store.FailureWords;
import weftex.store.FileProblem;
import weftex.store.Refusal;
import weftex.store.seal.Keyring;

/** Words whatever is wrong with the file of a change set. */
final class Unreadable {
  private Unreadable() {}

  /** Something that reads a change set. */
  interface Reading<T> {
    T read() throws IOException, ChangeSetProblem;
  }

  /** Reads, and refuses in words if that fails. */
  static <T> T refusing(Path file, Reading<T> reading) throws Refusal {
    try {
      return reading.read();
    } catch (NoSuchFileException e) {
      throw refusal(
          "There is no change set " + file + ".",
          "Name another file, or write one with 'weftex draft'.");
    } catch (FileProblem e) {
      throw refusal(e.getMessage() + ".", e.next());
    } catch (IOException e) {
      throw refusal(
          "The change set " + file + " can't be read: " + FailureWords.of(e) + ".",
          "Check the file and its permissions.");
    } catch (IllegalArgumentException e) {
      throw refusal(
          "A decision in " + file + " does not fit its changes: " + e.getMessage(),
          "Draft again with 'weftex draft'.");
    } catch (ChangeSetProblem e) {
      throw problem(file, e);
    }
  }

  /** What lines can be appended to; of a sealed file it is known that its receivers are right. */
  static Content appendable(Path file, Keyring keys) throws Refusal {
    return refusing(
        file,
        () -> {
          Content content = Content.of(file, keys);
          if (content instanceof Content.Sealed) {
            try (InputStream in = content.open()) {
              content.check(ChangeSetReader.header(in));
            }
          }
          return content;
        });
  }

  private static Refusal problem(Path file, ChangeSetProblem e) {
    String place = "The change set " + file + ", line " + e.line() + ": " + e.getMessage() + ".";
    return switch (e.kind()) {
      case NOT_A_CHANGE_SET -> refusal(place, "Name a file that 'weftex draft' has written.");
      case NEWER_FORMAT ->
          refusal(place, "Use the version of Weftex that wrote it, or draft again.");
      case CUT_SHORT ->
          refusal(place + " It was cut short.", "Fetch the whole file again, or draft again.");
      case TORN ->
          refusal(
              place + " It was cut off while it was written.",
              "'weftex review "
                  + file
                  + " --list' takes that line away; what was decided before it stands.");
      case ALTERED, MALFORMED ->
          refusal(
              place + " It was altered after it was written.",
              "Draft again; decisions are made with 'weftex review', not in an editor.");
    };
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", next);
  }
}
