package weftex.store.seal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.store.FileProblem;
import weftex.store.Refusal;

class SealTest {
  /** What age-keygen 1.1 wrote, so that it is read where no such program is. */
  private static final String AGE_KEY =
      "AGE-SECRET-KEY-196MXMMG6FY8TAKGXSL0R74NNKG04G5HW0PHTDF56HV74R83CGD4QFDUSFQ";

  private static final byte[] CONTENT = "Ferry to Brae: 7.40\n".getBytes(StandardCharsets.UTF_8);

  @TempDir Path folder;

  @BeforeEach
  void hasPrograms() {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/ssh-keygen")), "there is no ssh-keygen");
  }

  private static boolean hasAge() {
    return Files.isExecutable(Path.of("/usr/bin/age"));
  }

  private Path key(String name, String kind, String passphrase) throws Exception {
    List<String> bits = kind.equals("rsa") ? List.of("-b", "2048") : List.of();
    List<String> words = new ArrayList<>(List.of("ssh-keygen", "-q", "-t", kind, "-N", passphrase));
    words.addAll(bits);
    words.addAll(List.of("-C", name + "@skerrow.example", "-f", name));
    run(words.toArray(String[]::new));
    return folder.resolve(name);
  }

  private byte[] run(String... words) throws Exception {
    Process process =
        new ProcessBuilder(words)
            .directory(folder.toFile())
            .redirectError(folder.resolve("said").toFile())
            .start();
    process.getOutputStream().close();
    byte[] out = process.getInputStream().readAllBytes();
    assertThat(process.waitFor()).as(Files.readString(folder.resolve("said"))).isZero();
    return out;
  }

  private Receivers receivers(String... said) throws Refusal {
    return Receivers.said(List.of(said), folder, "Nothing was written.");
  }

  private static Keyring ring(Path... named) {
    return new Keyring(List.of(named), List.of(), key -> Optional.empty());
  }

  private static Keyring ring(String passphrase, Path... named) {
    return new Keyring(List.of(named), List.of(), key -> Optional.of(passphrase));
  }

  private Path sealed(Receivers receivers, byte[]... appended) throws IOException {
    Path file = folder.resolve("sealed");
    try (OutputStream out = Files.newOutputStream(file);
        OutputStream sealing = SealedFile.writing(out, SealedFile.CHANGE_SET, receivers)) {
      sealing.write(CONTENT);
    }
    for (byte[] each : appended) {
      Files.write(file, SealedFile.open(file, Keyring.NONE).part(each), StandardOpenOption.APPEND);
    }
    return file;
  }

  private static byte[] content(Path file, Keyring keys) throws IOException {
    try (InputStream in = SealedFile.open(file, keys).content()) {
      return in.readAllBytes();
    }
  }

  @Test
  void eachReceiverOpensItByTheirOwnKey() throws Exception {
    Path age = folder.resolve("age.txt");
    Files.writeString(age, "# made today\n" + AGE_KEY + "\n");
    age.toFile().setReadable(false, false);
    age.toFile().setReadable(true, true);
    String ageReceiver = "age16r2lh4gycevgp25za9p7y0s9nanksdw5e4vran7lsrj2w9f70ukqmucgh4";
    Path ed = key("ed", "ed25519", "");
    Path rsa = key("rsa", "rsa", "");
    Path locked = key("locked", "ed25519", "harbour light");
    Receivers all = receivers("ed.pub", "rsa.pub", "locked.pub", ageReceiver, "ed.pub");
    assertThat(all.names())
        .containsExactly(
            "ed@skerrow.example",
            "rsa@skerrow.example",
            "locked@skerrow.example",
            ageReceiver.substring(0, 12) + "…");
    Path file = sealed(all);
    assertThat(SealedFile.isOne(file)).isTrue();
    assertThat(new String(Files.readAllBytes(file), StandardCharsets.UTF_8)).doesNotContain("Brae");
    for (Path key : List.of(age, ed, rsa, folder.resolve("ed.pub"))) {
      assertThat(content(file, ring(key))).as(key.toString()).isEqualTo(CONTENT);
    }
    assertThat(content(file, ring("harbour light", locked))).isEqualTo(CONTENT);
    assertThat(content(file, new Keyring(List.of(), List.of(rsa), k -> Optional.empty())))
        .isEqualTo(CONTENT);
  }

  @Test
  void whoeverHasNoKeyForItIsToldWhoDoes() throws Exception {
    key("mira", "ed25519", "");
    Path other = key("other", "ed25519", "");
    Path locked = key("locked", "rsa", "harbour light");
    Path file = sealed(receivers("mira.pub", "locked.pub"));
    problem(file, ring(other), "is sealed for mira@skerrow.example, locked@skerrow.example, and");
    problem(file, ring(other), other + " does not open it");
    problem(file, Keyring.NONE, "none of your usual keys opens it");
    problem(file, ring(locked), "is locked by a passphrase, and nobody is there to be asked");
    problem(file, ring("wrong", locked), "The passphrase of " + locked + " is wrong");
    problem(file, ring(folder.resolve("none")), "none can't be read: there is no");
    Files.delete(folder.resolve("mira"));
    problem(
        file,
        ring(folder.resolve("mira.pub")),
        "is not beside it, and an agent that holds it can sign with it, not open");
    Path text = folder.resolve("said");
    text.toFile().setReadable(false, false);
    text.toFile().setReadable(true, true);
    problem(file, ring(text), "is no private key of SSH or age that can be read");
    assertThat(other.toFile().setReadable(true, false)).isTrue();
    problem(file, ring(other), "Others on this machine can read the private key");
  }

  private static void problem(Path file, Keyring keys, String what) {
    assertThatThrownBy(() -> content(file, keys))
        .isInstanceOf(FileProblem.class)
        .hasMessageContaining(what);
  }

  @Test
  void nothingIsSealedForWhatIsNoPublicKey() throws Exception {
    key("mira", "ed25519", "");
    key("ecdsa", "ecdsa", "");
    Files.writeString(folder.resolve("empty"), "# nobody\n");
    Files.writeString(
        folder.resolve("team"), "# us\n" + Files.readString(folder.resolve("mira.pub")));
    assertThat(receivers("team").names()).containsExactly("mira@skerrow.example");
    refused("mira", "is a private key; a seal takes the public one. Nothing was written.");
    refused("ecdsa.pub", "nothing can be sealed for a key of the kind ecdsa-sha2-nistp256");
    refused("empty", "There is no key in");
    refused("nowhere", "can't be read: there is no");
    refused("age1notone", "it is no public key of SSH or age");
    refused("ssh-ed25519 AAAA", "can't be sealed for");
  }

  private void refused(String said, String what) {
    assertThatThrownBy(() -> receivers(said))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining(what);
  }

  @Test
  void whatAgeSealsIsOpenedAndWhatIsSealedAgeOpens() throws Exception {
    assumeTrue(hasAge(), "there is no age");
    run("age-keygen", "-o", "id.txt");
    String own = new String(run("age-keygen", "-y", "id.txt"), StandardCharsets.UTF_8).strip();
    key("ed", "ed25519", "");
    key("rsa", "rsa", "");
    Receivers all = receivers(own, "ed.pub", "rsa.pub");
    ByteArrayOutputStream report = new ByteArrayOutputStream();
    try (OutputStream out = all.sealing(report)) {
      out.write(CONTENT);
    }
    Files.write(folder.resolve("report.age"), report.toByteArray());
    Files.write(folder.resolve("clear"), CONTENT);
    for (String key : List.of("id.txt", "ed", "rsa")) {
      assertThat(run("age", "-d", "-i", key, "report.age")).as(key).isEqualTo(CONTENT);
    }
    Path file = sealed(all);
    String header = Files.readString(file).lines().findFirst().orElseThrow();
    byte[] theirs = run("age", "-a", "-r", own, "-R", "ed.pub", "-R", "rsa.pub", "clear");
    Files.writeString(file, header + "\n");
    Files.write(file, theirs, StandardOpenOption.APPEND);
    for (String key : List.of("id.txt", "ed", "rsa")) {
      assertThat(content(file, ring(folder.resolve(key)))).as(key).isEqualTo(CONTENT);
    }
  }

  @Test
  void longContentIsReadInPartsAndAnywhere() throws Exception {
    Path own = key("mira", "ed25519", "");
    byte[] content = new byte[(3 << 20) + 17];
    new Random(5).nextBytes(content);
    Path file = folder.resolve("long");
    try (OutputStream out = Files.newOutputStream(file);
        OutputStream sealing =
            SealedFile.writing(out, SealedFile.CHANGE_SET, receivers("mira.pub"))) {
      for (int i = 0; i < content.length; i += 700_000) {
        sealing.write(content, i, Math.min(700_000, content.length - i));
      }
    }
    SealedFile sealed = SealedFile.open(file, ring(own));
    Files.write(file, sealed.part(CONTENT), StandardOpenOption.APPEND);
    try (InputStream in = sealed.content()) {
      assertThat(in.readNBytes(content.length)).isEqualTo(content);
      assertThat(in.readAllBytes()).isEqualTo(CONTENT);
    }
    for (int from : List.of(0, (1 << 20) - 3, (2 << 20) - 40_000, content.length - 5)) {
      int length = Math.min(80_000, content.length - from);
      assertThat(sealed.at(from, length))
          .isEqualTo(Arrays.copyOfRange(content, from, from + length));
    }
    assertThatThrownBy(() -> sealed.at(content.length, 100)).hasMessageContaining("shorter");
  }

  @Test
  void whateverByteIsTurnedNothingElseComesOut() throws Exception {
    Path own = key("mira", "ed25519", "");
    Path file = sealed(receivers("mira.pub"), "decided\n".getBytes(StandardCharsets.UTF_8));
    byte[] whole = Files.readAllBytes(file);
    byte[] right = content(file, ring(own));
    Keyring keys = ring(own);
    int header = Files.readString(file).indexOf('\n') + 1;
    for (int i = header; i < whole.length; i++) {
      byte[] turned = whole.clone();
      turned[i] ^= 1;
      Files.write(file, turned);
      assertThatThrownBy(() -> content(file, keys)).as("byte " + i).isInstanceOf(FileProblem.class);
    }
    Files.write(file, whole);
    assertThat(content(file, keys)).isEqualTo(right);
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 20, 36, 37, 200})
  void aPartThatWasCutOffIsToldFromWholeOnes(int cut) throws Exception {
    Path own = key("mira", "ed25519", "");
    Path file = sealed(receivers("mira.pub"), "decided\n".getBytes(StandardCharsets.UTF_8));
    long first;
    try (InputStream in = SealedFile.open(sealed(receivers("mira.pub")), ring(own)).content()) {
      in.readAllBytes();
      first = Files.size(file);
    }
    sealed(receivers("mira.pub"), "decided\n".getBytes(StandardCharsets.UTF_8));
    byte[] whole = Files.readAllBytes(file);
    Files.write(file, Arrays.copyOf(whole, whole.length - cut));
    SealedFile sealed = SealedFile.open(file, ring(own));
    assertThat(sealed.endsWhole()).isFalse();
    problem(file, ring(own), "ends in the middle of a sealed part: it was cut short");
    assertThat(sealed.wholeLength()).isEqualTo(first);
    try (InputStream in = sealed.wholeContent()) {
      assertThat(in.readAllBytes()).isEqualTo(CONTENT);
    }
  }

  /** What a file is stands in its first line, which nothing else protects. */
  @Test
  void aFileThatSaysToBeAnotherKindIsNotOpened() throws Exception {
    Path own = key("mira", "ed25519", "");
    Path file = sealed(receivers("mira.pub"));
    String whole = Files.readString(file, StandardCharsets.ISO_8859_1);
    for (String what : List.of("receipt", "state-key", "chAnge-set", "change-set-2")) {
      Files.writeString(
          file,
          whole.replaceFirst("sealed-change-set", "sealed-" + what),
          StandardCharsets.ISO_8859_1);
      assertThatThrownBy(() -> content(file, ring(own)))
          .isInstanceOf(FileProblem.class)
          .hasMessageContaining("is damaged, or something was written into it");
    }
  }
}
