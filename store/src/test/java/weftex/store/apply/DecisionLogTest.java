package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.changeset.DecisionLog;
import weftex.store.seal.Keyring;

class DecisionLogTest {
  @TempDir Path folder;
  private Path file;

  @BeforeEach
  void aFile() throws Exception {
    file = folder.resolve("set.jsonl");
    Files.writeString(file, "first\n");
  }

  private static byte[] line(String text) {
    return (text + "\n").getBytes(StandardCharsets.UTF_8);
  }

  @Test
  void linesAreAppendedBehindWhateverElseIsThere() throws Exception {
    try (DecisionLog log = DecisionLog.open(file, "Mira", Keyring.NONE).log().orElseThrow()) {
      assertThat(log.append(List.of(line("a"), line("b")))).isEqualTo(Files.size(file));
      Files.writeString(file, Files.readString(file) + "from elsewhere\n");
      log.append(List.of(line("c")));
    }
    assertThat(file).hasContent("first\na\nb\nfrom elsewhere\nc\n");
  }

  @Test
  void oneHoldsItAtATimeAndSaysWho() throws Exception {
    DecisionLog.Opened first = DecisionLog.open(file, "Mira, since ten", Keyring.NONE);
    DecisionLog.Opened second = DecisionLog.open(file, "Ola", Keyring.NONE);
    assertThat(second.log()).isEmpty();
    assertThat(second.holder()).contains("Mira, since ten");
    first.log().orElseThrow().close();
    DecisionLog.Opened third = DecisionLog.open(file, "Ola", Keyring.NONE);
    assertThat(third.log()).isPresent();
    third.log().get().close();
  }

  private Path draft(String behind) throws Exception {
    return Files.writeString(
        file, "{\"weftex\":\"change-set\"}\n{\"change\":1}\n" + behind, StandardCharsets.UTF_8);
  }

  @Test
  void aLineThatWasCutOffIsTakenAway() throws Exception {
    draft("{\"drafted\":{}}\n{\"decision\":{\"by\":\"Ola\"}}\n");
    byte[] before = Files.readAllBytes(file);
    assertThat(DecisionLog.mend(file, "Mira", Keyring.NONE)).isFalse();
    Files.writeString(file, "{\"decision\":{\"by", StandardOpenOption.APPEND);
    assertThat(DecisionLog.mend(file, "Mira", Keyring.NONE)).isTrue();
    assertThat(file).hasBinaryContent(before);
    assertThat(DecisionLog.mend(file, "Mira", Keyring.NONE)).isFalse();
  }

  @Test
  void aLineThatLacksOnlyItsLineFeedGetsIt() throws Exception {
    draft("{\"drafted\":{}}\n{\"approval\":{}}");
    assertThat(DecisionLog.mend(file, "Mira", Keyring.NONE)).isFalse();
    assertThat(Files.readString(file)).endsWith("{\"drafted\":{}}\n{\"approval\":{}}\n");
  }

  @Test
  void aFileThatIsCutShortBeforeOrIsOpenElsewhereStaysAsItIs() throws Exception {
    draft("{\"chan");
    assertThat(DecisionLog.mend(file, "Mira", Keyring.NONE)).isFalse();
    assertThat(Files.readString(file)).endsWith("\n{\"chan");
    draft("{\"drafted\":{}}\n{\"decis");
    try (DecisionLog other = DecisionLog.open(file, "Ola", Keyring.NONE).log().orElseThrow()) {
      assertThat(other).isNotNull();
      assertThat(DecisionLog.mend(file, "Mira", Keyring.NONE)).isFalse();
    }
    assertThat(Files.readString(file)).endsWith("{\"decis");
  }

  @Test
  void theFileBesideIsItsOwnersAloneAndEmptyInTheEnd() throws Exception {
    Path beside = folder.resolve(".set.jsonl.open");
    try (DecisionLog log = DecisionLog.open(file, "Mira", Keyring.NONE).log().orElseThrow()) {
      assertThat(log).isNotNull();
      assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(beside)))
          .isEqualTo("rw-------");
    }
    assertThat(beside).isEmptyFile();
  }

  /** It emptied whatever a link in its place led to. */
  @Test
  void aLinkInPlaceOfTheFileBesideIsNotFollowed() throws Exception {
    draft("{\"drafted\":{}}\n");
    Path other = Files.writeString(folder.resolve("precious"), "all of it");
    Files.createSymbolicLink(folder.resolve(".set.jsonl.open"), other);
    assertThatThrownBy(() -> DecisionLog.open(file, "Mira", Keyring.NONE))
        .isInstanceOf(IOException.class)
        .hasMessageContaining(".set.jsonl.open is a link, which Weftex does not follow");
    assertThat(other).hasContent("all of it");
  }
}
