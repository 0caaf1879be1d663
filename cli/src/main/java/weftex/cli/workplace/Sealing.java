package weftex.cli.workplace;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.Pair;
import weftex.cli.config.SealedEntry;
import weftex.cli.session.OwnKeys;
import weftex.cli.session.Session;
import weftex.store.FailureWords;
import weftex.store.FileProblem;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.seal.AtRest;
import weftex.store.seal.Keyring;
import weftex.store.seal.Receivers;
import weftex.store.seal.SealedFile;
import weftex.store.state.StateFolder;

/** For whom content is sealed, and what opens it. */
public final class Sealing {
  private static final String SEAL_FOR = "seal-for";

  private Sealing() {}

  /** Adds the option that names receivers. */
  public static void addSealFor(Options options) {
    options.addOption(
        Option.builder()
            .longOpt(SEAL_FOR)
            .hasArg()
            .argName("KEY")
            .desc(
                "encrypt it for this public key of SSH or age, or for all in this file; again for"
                    + " each receiver, you among them")
            .get());
  }

  /**
   * For whom what is kept of a pair is encrypted; nobody if it is not.
   *
   * @throws Refusal if there is no key for it
   */
  public static Receivers receivers(Pair pair, StateFolder state, Keyring keys) throws Refusal {
    SealedEntry sealed = pair.sealed();
    if (!sealed.on() || !sealed.receivers().isEmpty()) {
      return Receivers.said(sealed.receivers(), pair.folder(), "Nothing was changed.");
    }
    try {
      // Who made the folder has said for whom.
      Optional<Receivers> known = AtRest.people(state.folder(), keys);
      Receivers own = known.isPresent() ? known.get() : keys.firstReceiver();
      if (own.isNobody()) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "What is kept of this pair is to be sealed, and you have no key of SSH or age here."
                + " Nothing was changed.",
            "Make one with 'ssh-keygen -t ed25519', name yours with --"
                + OwnKeys.OPTION
                + ", or the public ones under 'sealed' in weftex.yaml.");
      }
      return own;
    } catch (FileProblem e) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT, e.getMessage() + ". Nothing was changed.", e.next(), e);
    } catch (IOException e) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The key of the state folder can't be read: "
              + FailureWords.of(e)
              + ". Nothing was changed.",
          "Have the right to it granted, or bring it back from a backup.",
          e);
    }
  }

  /** The receivers that are named on the command line. */
  public static Receivers receivers(CommandLine line, Session session, String ending)
      throws Refusal {
    return line.hasOption(SEAL_FOR)
        ? Receivers.said(List.of(line.getOptionValues(SEAL_FOR)), session.folder(), ending)
        : Receivers.NONE;
  }

  /**
   * Those of a change set that is brought up to date, unless others are named; else those for whom
   * all that is kept of the pair is sealed.
   */
  public static Receivers receivers(
      CommandLine line, Session session, List<String> before, Receivers people)
      throws Refusal, IOException {
    Receivers said = receivers(line, session, "No change set was written.");
    Receivers kept = before.isEmpty() ? people : Receivers.of(before);
    return said.isNobody() ? kept : said;
  }

  /**
   * Those of two change sets that are put together, unless others are named.
   *
   * @throws Refusal if they are for different people: each would see what was not meant for them
   */
  public static Receivers receivers(
      CommandLine line, Workplace place, Session session, ChangeSetFile one, ChangeSetFile other)
      throws Refusal, IOException {
    Receivers said = receivers(line, session, "No change set was written.");
    Receivers first = Receivers.of(one.header().receivers());
    if (said.isNobody() && !first.areThose(Receivers.of(other.header().receivers()))) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The two change sets are not sealed for the same receivers. No change set was written.",
          "Say with --seal-for who may see both.");
    }
    Receivers kept = first.isNobody() ? place.people() : first;
    return said.isNobody() ? kept : said;
  }

  /**
   * Whether what is sealed for these can be opened here; a key that can't be read opens nothing.
   */
  public static boolean opens(Keyring keys, Receivers receivers) {
    try {
      return receivers.isNobody() || keys.opens(receivers);
    } catch (FileProblem e) {
      return false;
    }
  }

  /** Whoever signs a draft must be able to open it. */
  public static void checkSigned(CommandLine line, Session session, Receivers receivers)
      throws Refusal {
    if (line.hasOption("sign") && !opens(session.keys(), receivers)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "A draft that you sign must be sealed for a key of yours, too. No change set was written.",
          "Name your own public key with --" + SEAL_FOR + ", too.");
    }
  }

  /** Asks for a passphrase, if one is needed, before anything else is on the terminal. */
  public static void unlock(Path file, Session session) throws Refusal, IOException {
    if (Files.isRegularFile(file) && SealedFile.isOne(file)) {
      ChangeSetFile.header(file, session.keys());
    }
  }
}
