package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.session.OwnKeys;
import weftex.cli.session.Session;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.seal.Keyring;
import weftex.store.seal.Receivers;
import weftex.store.seal.SealProblem;
import weftex.store.seal.SealedFile;

/** For whom content is sealed, and what opens it. */
final class Sealing {
  private static final String SEAL_FOR = "seal-for";

  private Sealing() {}

  /** Adds the option that names receivers. */
  static void addSealFor(Options options) {
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

  /** Adds the option that names private keys. */
  static void addOpenWith(Options options) {
    options.addOption(
        Option.builder()
            .longOpt(OwnKeys.OPTION)
            .hasArg()
            .argName("KEY")
            .desc(
                "open a sealed change set with this private key of SSH or age (default: what"
                    + " WEFTEX_OPEN_WITH names, or your SSH keys)")
            .get());
  }

  /** The receivers that are named on the command line. */
  static Receivers receivers(CommandLine line, Session session, String ending) throws Refusal {
    return line.hasOption(SEAL_FOR)
        ? Receivers.said(List.of(line.getOptionValues(SEAL_FOR)), session.folder(), ending)
        : Receivers.NONE;
  }

  /** Those of a change set that is brought up to date, unless others are named. */
  static Receivers receivers(CommandLine line, Session session, List<String> before)
      throws Refusal, IOException {
    Receivers said = receivers(line, session, "No change set was written.");
    return said.isNobody() ? Receivers.of(before) : said;
  }

  /**
   * Those of two change sets that are put together, unless others are named.
   *
   * @throws Refusal if they are for different people: each would see what was not meant for them
   */
  static Receivers receivers(
      CommandLine line, Session session, ChangeSetFile one, ChangeSetFile other)
      throws Refusal, IOException {
    Receivers said = receivers(line, session, "No change set was written.");
    Receivers first = Receivers.of(one.header().receivers());
    if (said.isNobody() && !first.areThose(Receivers.of(other.header().receivers()))) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The two change sets are not sealed for the same receivers. No change set was written.",
          "Say with --seal-for who may see both.");
    }
    return said.isNobody() ? first : said;
  }

  /**
   * Whether what is sealed for these can be opened here; a key that can't be read opens nothing.
   */
  static boolean opens(Keyring keys, Receivers receivers) {
    try {
      return receivers.isNobody() || keys.opens(receivers);
    } catch (SealProblem e) {
      return false;
    }
  }

  /** Whoever signs a draft must be able to open it. */
  static void checkSigned(CommandLine line, Session session, Receivers receivers) throws Refusal {
    if (line.hasOption("sign") && !opens(session.keys(), receivers)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "A draft that you sign must be sealed for a key of yours, too. No change set was written.",
          "Name your own public key with --" + SEAL_FOR + ", too.");
    }
  }

  /** Asks for a passphrase, if one is needed, before anything else is on the terminal. */
  static void unlock(Path file, Session session) throws Refusal, IOException {
    if (Files.isRegularFile(file) && SealedFile.isOne(file)) {
      ChangeSetFile.header(file, session.keys());
    }
  }
}
