package weftex.cli.workplace;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.HexFormat;
import java.util.List;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import weftex.core.mask.MadeUp;
import weftex.core.mask.Masking;
import weftex.core.yaml.Nearest;
import weftex.store.Refusal;
import weftex.store.state.Files0600;

/** Personal data of live, which staging has made-up values for. */
public final class MaskedPeople {
  private static final String MASK = "mask";
  private static final String PERSONAL = "personal";
  private static final String STAGING = "staging";
  private static final int SECRET_BYTES = 32;

  private MaskedPeople() {}

  /** The option by which a run makes sure that they are. */
  public static Option option() {
    return Option.builder()
        .longOpt(MASK)
        .hasArg()
        .argName(PERSONAL)
        .desc(
            "into staging: make sure that live's personal data arrive made up, as 'masked: personal'"
                + " in weftex.yaml has it for every run")
        .get();
  }

  /**
   * Refuses what would bring real ones.
   *
   * @param into the copy that receives rows
   * @param ending a sentence on what was not done
   */
  public static void check(CommandLine line, Workplace place, String into, String ending)
      throws Refusal {
    if (!line.hasOption(MASK)) {
      return;
    }
    String word = line.getOptionValue(MASK);
    if (!word.equals(PERSONAL)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--mask takes the word '" + PERSONAL + "', not '" + word + "'. " + ending,
          Nearest.to(word, List.of(PERSONAL))
              .map(near -> "Did you mean --mask " + near + "?")
              .orElse("Say --mask personal."));
    }
    if (!into.equals(STAGING)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--mask is for rows that go into staging, and these go into " + into + ". " + ending,
          "Leave it out, or name staging as the copy that receives them.");
    }
    if (!place.pair().people().areMasked()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "weftex.yaml does not say that staging's personal data are made up, so they would travel"
              + " back to live as edits. "
              + ending,
          "Add the line 'masked: personal' to it, and run it again.");
    }
  }

  /** Says that they are, to whoever brings rows into staging. */
  public static void say(Workplace place, String into) {
    if (place.pair().people().areMasked() && into.equals(STAGING)) {
      place.say("Personal data of live arrive made up, as 'masked' in weftex.yaml has it.");
    }
  }

  /** How rows of one copy become rows of the other. */
  public static Masking masking(Workplace place, String from, String into)
      throws Refusal, IOException {
    if (!place.pair().people().areMasked() || from.equals(into)) {
      return Masking.NONE;
    }
    return into.equals(STAGING)
        ? Masking.into(new MadeUp(secret(place), place.pair().people().spared()))
        : Masking.FROM;
  }

  /** Made once for a pair, so that a person has the same made-up name for ever. */
  private static byte[] secret(Workplace place) throws Refusal, IOException {
    Path file = place.state().folder().resolve("masking-secret");
    if (!Files.exists(file)) {
      byte[] fresh = new byte[SECRET_BYTES];
      new SecureRandom().nextBytes(fresh);
      Files0600.createFolder(file.getParent());
      Files0600.whole(
          file,
          raw -> {
            try (OutputStream out = place.atRest().sealing(raw)) {
              out.write(HexFormat.of().formatHex(fresh).getBytes(StandardCharsets.US_ASCII));
            }
          });
      Files0600.sync(file);
    }
    try (InputStream in = place.atRest().open(file)) {
      byte[] secret =
          HexFormat.of().parseHex(new String(in.readAllBytes(), StandardCharsets.US_ASCII).strip());
      if (secret.length == SECRET_BYTES) {
        return secret;
      }
    } catch (IllegalArgumentException e) {
      // It is said below.
    }
    throw new Refusal(
        Refusal.Kind.PROTECTED,
        place.shown(file)
            + ", by which personal data are made up, is damaged. Nothing was changed.",
        "Bring it back from a backup; without it people get other made-up names: then remove it.");
  }
}
