package weftex.store.seal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.store.FileProblem;
import weftex.store.testing.AgeKey;

class AtRestTest {
  private static final byte[] WORDS = "Ferry to Brae: 7.40\n".getBytes(StandardCharsets.UTF_8);

  @TempDir Path folder;
  private Path mira;
  private Path tor;

  @BeforeEach
  void keys() throws Exception {
    mira = AgeKey.write(folder.resolve("mira"));
    tor = AgeKey.write(folder.resolve("tor"));
    Files.createDirectory(folder.resolve("state"));
  }

  /** As the owner of a key has it, sealed for some. */
  private AtRest of(Path own, Path... people) throws Exception {
    List<String> said = Arrays.stream(people).map(AtRestTest::receiver).toList();
    return new AtRest(folder.resolve("state"), Receivers.said(said, folder, ""), ring(own));
  }

  private static Keyring ring(Path own) {
    return new Keyring(List.of(own), List.of(), file -> Optional.empty());
  }

  private static String receiver(Path key) {
    try {
      return AgeKey.receiver(key);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  private Path written(AtRest by, String name, byte[] content) throws IOException {
    Path file = folder.resolve("state").resolve(name);
    try (OutputStream out = by.create(file)) {
      out.write(content);
    }
    return file;
  }

  private static byte[] content(AtRest by, Path file) throws IOException {
    try (InputStream in = by.open(file)) {
      return in.readAllBytes();
    }
  }

  /** Around the edges of the format's chunks, too. */
  @ParameterizedTest
  @ValueSource(ints = {0, 1, 65_535, 65_536, 65_537, 131_072, 300_001})
  void itIsReadFromAnywhere(int size) throws Exception {
    Random random = new Random(size);
    byte[] content = new byte[size];
    random.nextBytes(content);
    AtRest atRest = of(mira, mira);
    Path file = written(atRest, "0001.avro", content);
    assertThat(AtRest.isSealed(file)).isTrue();
    assertThat(content(atRest, file)).isEqualTo(content);
    try (SeekableByteChannel channel = atRest.channel(file)) {
      assertThat(channel.size()).isEqualTo(size);
      for (int i = 0; i < 200; i++) {
        int from = random.nextInt(size + 1);
        byte[] some = new byte[Math.min(size - from, random.nextInt(90_000))];
        ByteBuffer into = ByteBuffer.wrap(some);
        channel.position(from);
        while (into.hasRemaining()) {
          assertThat(channel.read(into)).isPositive();
        }
        assertThat(some).isEqualTo(Arrays.copyOfRange(content, from, from + some.length));
      }
      channel.position(size);
      assertThat(channel.read(ByteBuffer.allocate(1))).isNegative();
    }
  }

  @Test
  void ageItselfOpensIt() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/age")), "there is no age");
    Path file = written(of(mira, mira), "0001.avro", WORDS);
    byte[] sealed = Files.readAllBytes(folder.resolve("state").resolve("state-key.sealed"));
    int line = new String(sealed, StandardCharsets.ISO_8859_1).indexOf('\n') + 1;
    Path key = folder.resolve("state-key");
    Path armored =
        Files.write(folder.resolve("armored"), Arrays.copyOfRange(sealed, line, sealed.length));
    Files.write(key, age(mira, armored));
    assertThat(age(key, file)).isEqualTo(WORDS);
  }

  private static byte[] age(Path key, Path file) throws Exception {
    Process process =
        new ProcessBuilder("age", "-d", "-i", key.toString(), file.toString())
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    process.getOutputStream().close();
    byte[] out = process.getInputStream().readAllBytes();
    assertThat(process.waitFor()).isZero();
    return out;
  }

  @Test
  void noByteOfItCanBeTurnedAndNoneCutOff() throws Exception {
    AtRest atRest = of(mira, mira);
    Path file = written(atRest, "0001.avro", WORDS);
    byte[] whole = Files.readAllBytes(file);
    for (int i = 0; i < whole.length; i++) {
      byte[] turned = whole.clone();
      turned[i] ^= 4;
      Files.write(file, turned);
      // Where its first line is another one it is no sealed file, and what is read is not content.
      boolean isOne = AtRest.isSealed(file);
      assertThat(isOne).isEqualTo(i >= "age-encryption.org/v1\n".length());
      if (isOne) {
        assertThatThrownBy(() -> content(atRest, file)).isInstanceOf(FileProblem.class);
      }
    }
    for (int length = 40; length < whole.length; length++) {
      Files.write(file, Arrays.copyOf(whole, length));
      assertThat(catchThrowable(() -> content(atRest, file)))
          .as("cut off at " + length + " of " + whole.length)
          .isInstanceOf(FileProblem.class);
    }
  }

  /** A file that ends where a chunk ends looks whole, but for the mark of the last one. */
  @Test
  void aFileOfWhichWholeChunksWereCutIsSeen() throws Exception {
    AtRest atRest = of(mira, mira);
    Path file = written(atRest, "0001.avro", new byte[200_000]);
    byte[] whole = Files.readAllBytes(file);
    int last = 200_000 % 65_536 + 16;
    Files.write(file, Arrays.copyOf(whole, whole.length - last));
    assertThatThrownBy(() -> content(atRest, file))
        .isInstanceOf(FileProblem.class)
        .hasMessageContaining("is damaged");
  }

  @Test
  void anotherReceiverNeedsNothingButTheKey() throws Exception {
    Path file = written(of(mira, mira), "0001.avro", WORDS);
    byte[] before = Files.readAllBytes(file);
    assertThatThrownBy(() -> content(of(tor, mira), file))
        .isInstanceOf(FileProblem.class)
        .hasMessageContaining("state-key.sealed" + " is sealed for")
        .hasMessageContaining("tor does not open it");
    // Whoever can open the key names another one.
    assertThat(content(of(mira, mira, tor), file)).isEqualTo(WORDS);
    assertThat(content(of(tor, mira, tor), file)).isEqualTo(WORDS);
    assertThat(Files.readAllBytes(file)).isEqualTo(before);
  }

  @Test
  void nobodyTakesThemselvesOffTheList() throws Exception {
    Path file = written(of(mira, mira), "0001.avro", WORDS);
    assertThatThrownBy(() -> content(of(mira, tor), file))
        .isInstanceOf(FileProblem.class)
        .hasMessageContaining("no key here opens that");
    assertThat(content(of(mira, mira), file)).isEqualTo(WORDS);
  }

  @Test
  void whoCouldNotOpenItDoesNotBeginIt() throws Exception {
    AtRest atRest = of(tor, mira);
    assertThatThrownBy(() -> written(atRest, "0001.avro", WORDS))
        .isInstanceOf(FileProblem.class)
        .hasMessageContaining("no key here opens that");
    assertThat(folder.resolve("state").resolve("state-key.sealed")).doesNotExist();
  }

  @Test
  void aKeyThatIsGoneIsNotReplacedWhereSomethingIsSealed() throws Exception {
    Path file = written(of(mira, mira), "0001.avro", WORDS);
    Files.delete(folder.resolve("state").resolve("state-key.sealed"));
    for (boolean writes : List.of(false, true)) {
      assertThatThrownBy(
              () -> {
                AtRest atRest = of(mira, mira);
                if (writes) {
                  written(atRest, "0002.avro", WORDS);
                } else {
                  content(atRest, file);
                }
              })
          .isInstanceOf(FileProblem.class)
          .hasMessageContaining("is not there");
    }
    Files.delete(file);
    Path other = folder.resolve("state").resolve("0002.avro");
    Files.deleteIfExists(other);
    assertThat(content(of(mira, mira), written(of(mira, mira), "0003.avro", WORDS)))
        .isEqualTo(WORDS);
  }

  @Test
  void aSiteOfSeveralThatBeginsLaterHasAKeyOfItsOwn() throws Exception {
    Path second = Files.createDirectories(folder.resolve("state/sites/2"));
    AtRest other =
        new AtRest(second, Receivers.said(List.of(receiver(mira)), folder, ""), ring(mira));
    try (OutputStream out = other.create(second.resolve("0001.avro"))) {
      out.write(WORDS);
    }
    assertThat(content(of(mira, mira), written(of(mira, mira), "0001.avro", WORDS)))
        .isEqualTo(WORDS);
  }

  @Test
  void ofTwoThatBeginAtOnceBothHaveTheSameKey() throws Exception {
    for (int round = 0; round < 20; round++) {
      Files.deleteIfExists(folder.resolve("state").resolve("state-key.sealed"));
      AtRest one = of(mira, mira);
      AtRest other = of(mira, mira);
      CompletableFuture<Path> first =
          CompletableFuture.supplyAsync(
              () -> {
                try {
                  return written(one, "one", WORDS);
                } catch (IOException e) {
                  throw new IllegalStateException(e);
                }
              });
      Path second = written(other, "other", WORDS);
      assertThat(content(of(mira, mira), first.join())).isEqualTo(WORDS);
      assertThat(content(of(mira, mira), second)).isEqualTo(WORDS);
      Files.delete(first.join());
      Files.delete(second);
    }
  }

  @Test
  void whatIsInTheClearIsReadAsItIs() throws Exception {
    Path file = folder.resolve("state").resolve("place.json");
    Files.write(file, WORDS);
    assertThat(content(AtRest.CLEAR, file)).isEqualTo(WORDS);
    assertThat(content(of(mira, mira), file)).isEqualTo(WORDS);
    Path sealed = written(of(mira, mira), "0001.avro", WORDS);
    // Nobody says any more that it is to be sealed, and the key is there.
    assertThat(content(of(mira), sealed)).isEqualTo(WORDS);
    assertThat(Files.readAllBytes(written(of(mira), "0002.avro", WORDS))).isEqualTo(WORDS);
  }
}
