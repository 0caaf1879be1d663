package weftex.store.signature;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.signoff.Statement;
import weftex.store.Refusal;
import weftex.store.sshkey.KeyProblem;

class SignersTest {
  private static final Instant NOW = Instant.parse("2026-11-29T12:00:00Z");
  private static final Statement STATEMENT =
      new Statement("approval", "00", "2026-11-29T08:00:00Z", "Mira");

  /** What OpenSSH 9.2 wrote, so that it is read where no such program is. */
  private static final String KEY =
      "ssh-ed25519 AAAAC3NzaC1lZDI1NTE5AAAAICaXxR6jfzo/iDagoRq4tb5gMjhFqR8kcq4XJcn0NX6D";

  private static final String SIGNATURE =
      """
      -----BEGIN SSH SIGNATURE-----
      U1NIU0lHAAAAAQAAADMAAAALc3NoLWVkMjU1MTkAAAAgJpfFHqN/Oj+INqChGri1vmAyOE
      WpHyRyrhclyfQ1foMAAAAGd2VmdGV4AAAAAAAAAAZzaGE1MTIAAABTAAAAC3NzaC1lZDI1
      NTE5AAAAQPxoG4uRiqSX3LoOz3NZEyqjsujzknwTAOGuvghfn545OR1hZKKgi6WGcwN09I
      VIwj7uvw34zVwKQUoaZ7uQmgg=
      -----END SSH SIGNATURE-----
      """;

  @TempDir Path folder;

  private Signers signers(String... lines) throws Exception {
    return Signers.read(Files.write(folder.resolve("signers"), List.of(lines)));
  }

  private static String signer(Signers signers, String signature) throws KeyProblem {
    return signers.signer(STATEMENT.bytes(), signature, Instant.parse(STATEMENT.at()), NOW);
  }

  private static String run(String... words) throws IOException, InterruptedException {
    Process process = new ProcessBuilder(words).redirectErrorStream(true).start();
    process.getOutputStream().close();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor()).as(said).isZero();
    return said;
  }

  private Path key(String kind, String bits) throws IOException, InterruptedException {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/ssh-keygen")), "there is no ssh-keygen");
    Path key = folder.resolve(kind + bits);
    List<String> words =
        new ArrayList<>(
            List.of("ssh-keygen", "-q", "-t", kind, "-N", "", "-C", "", "-f", "" + key));
    if (!bits.isEmpty()) {
      words.addAll(List.of("-b", bits));
    }
    run(words.toArray(String[]::new));
    return key;
  }

  private static String publicKey(Path key) throws IOException {
    return Files.readString(key.resolveSibling(key.getFileName() + ".pub")).strip();
  }

  private static String sign(Path key) throws Refusal {
    return new KeySigner(key, Set.of()).sign(STATEMENT, "Nothing was changed.");
  }

  @Test
  void whatOpenSshWroteIsVerifiedWithoutIt() throws Exception {
    assertThat(signer(signers("# ours", "", "mira@skerrow.example " + KEY), SIGNATURE))
        .isEqualTo("mira@skerrow.example");
    assertThatThrownBy(
            () ->
                signers("mira " + KEY)
                    .signer(
                        new Statement("approval", "01", STATEMENT.at(), "Mira").bytes(),
                        SIGNATURE,
                        NOW,
                        NOW))
        .hasMessage("it is over something else, or not by the key that it names");
  }

  @Test
  @Tag("full")
  void aLongKeySigns() throws Exception {
    everyKindOfKeySigns("rsa", "4096");
  }

  @ParameterizedTest
  @CsvSource({"ed25519,''", "rsa,2048", "rsa,3072", "ecdsa,256", "ecdsa,384", "ecdsa,521"})
  void everyKindOfKeySigns(String kind, String bits) throws Exception {
    Path key = key(kind, bits);
    Signers signers = signers("tor " + KEY, "mira " + publicKey(key) + " Mira's");
    // ECDSA's numbers are of different length from time to time.
    for (int i = 0; i < 5; i++) {
      assertThat(signer(signers, sign(key))).isEqualTo("mira");
    }
  }

  @Test
  void whateverIsAlteredByOneBitDoesNotCount() throws Exception {
    Signers signers = signers("mira " + KEY);
    String[] lines = SIGNATURE.strip().split("\n");
    byte[] bytes =
        Base64.getDecoder().decode(String.join("", Arrays.copyOfRange(lines, 1, lines.length - 1)));
    for (int i = 0; i < bytes.length * 8; i++) {
      byte[] other = bytes.clone();
      other[i / 8] ^= (byte) (1 << i % 8);
      String armored =
          lines[0]
              + "\n"
              + Base64.getEncoder().encodeToString(other)
              + "\n"
              + lines[lines.length - 1];
      assertThat(catchThrowable(() -> signer(signers, armored)))
          .as("bit " + i)
          .isInstanceOf(KeyProblem.class);
    }
    for (int length = 0; length < bytes.length; length++) {
      String cut =
          lines[0]
              + "\n"
              + Base64.getEncoder().encodeToString(Arrays.copyOf(bytes, length))
              + "\n"
              + lines[lines.length - 1];
      assertThatThrownBy(() -> signer(signers, cut)).isInstanceOf(KeyProblem.class);
    }
    for (String none : List.of("", "x", lines[0], lines[0] + "\n***\n" + lines[lines.length - 1])) {
      assertThatThrownBy(() -> signer(signers, none)).isInstanceOf(KeyProblem.class);
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          valid-before="20261129090000Z" | the key of mira counted until 2026-11-29T09:00:00Z
          valid-before="20261128Z"       | the key of mira counted until 2026-11-28T00:00:00Z
          valid-after="202611290900Z"    | the key of mira counts from 2026-11-29T09:00:00Z on
          namespaces="git,file"          | the key of mira is for git, file alone
          """)
  void aKeyCountsForItsUseAndItsTime(String option, String objection) throws Exception {
    assertThatThrownBy(() -> signer(signers("mira " + option + " " + KEY), SIGNATURE))
        .hasMessage(objection);
    // One that is listed again, and counts, counts.
    assertThat(signer(signers("mira " + option + " " + KEY, "mira " + KEY), SIGNATURE))
        .isEqualTo("mira");
  }

  @Test
  void optionsStandTogetherAndNamesInQuotes() throws Exception {
    assertThat(
            signer(
                signers(
                    "\"Mira Tangen\" namespaces=\"file,weftex\",valid-after=\"20260101\",valid-before=\"20990101\" "
                        + KEY
                        + " on her laptop"),
                SIGNATURE))
        .isEqualTo("Mira Tangen");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          mira                         | after the name there is no key
          mira ssh-ed25519             | after the name there is no key
          mira ssh-ed25519 !!!         | its key is damaged
          mira ssh-ed25519 AAAA        | it ends too early
          mira ssh-dss AAAAB3NzaC1kc3M= | keys of the kind ssh-dss are not known here
          mira cert-authority KEY      | 'cert-authority' is not understood here
          mira valid-before="soon" KEY | 'soon' is no time such as 20261231 or 202612312359Z
          mira valid-before="20261341" KEY | there is no such time as '20261341'
          """)
  void aLineThatNamesNoSignerIsRefusedByItsNumber(String line, String why) {
    assertThatThrownBy(() -> signers("# first", line.replace("KEY", KEY)))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("Line 2 of ")
        .hasMessageContaining(why)
        .hasMessageContaining("Nothing was changed.");
  }

  @Test
  void aStrangersKeyAndAnotherUseAreNamed() throws Exception {
    Path key = key("ed25519", "");
    assertThatThrownBy(() -> signer(signers("mira " + KEY), sign(key)))
        .hasMessageMatching("its key SHA256:[A-Za-z0-9+/]{43} is not in .*signers");
    Path file = Files.write(folder.resolve("m"), STATEMENT.bytes());
    run("ssh-keygen", "-q", "-Y", "sign", "-n", "file", "-f", "" + key, "" + file);
    assertThatThrownBy(
            () ->
                signer(
                    signers("mira " + publicKey(key)), Files.readString(folder.resolve("m.sig"))))
        .hasMessage("it was made for 'file', not for weftex");
  }

  @Test
  void aKeyThatIsTooShortCountsNowhere() throws Exception {
    Path key = key("rsa", "1024");
    assertThatThrownBy(() -> signers("mira " + publicKey(key)))
        .hasMessageContaining("its key has only 1024 bits");
  }

  @Test
  void whyNothingIsSignedIsSaid() throws Exception {
    assertThatThrownBy(() -> sign(folder.resolve("none")))
        .hasMessage("There is no key " + folder.resolve("none") + ". Nothing was changed.");
    Path text = Files.writeString(folder.resolve("text"), "no key");
    assertThatThrownBy(() -> sign(text)).hasMessageContaining("is no key that can sign");
    Path key = key("ed25519", "");
    Path lone = folder.resolve("lone.pub");
    Files.copy(folder.resolve("ed25519.pub"), lone);
    assertThatThrownBy(() -> sign(lone))
        .hasMessageContaining("is neither beside it nor with an agent");
    assertThat(key).exists();
  }
}
