package weftex.store.state;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.net.StandardProtocolFamily;
import java.net.UnixDomainSocketAddress;
import java.nio.channels.ServerSocketChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class StateFolderTest {
  @TempDir Path folder;

  private StateFolder state() {
    return StateFolder.of(folder.resolve("weftex.yaml"));
  }

  private Path draft(String name, Instant written) throws IOException {
    Files.createDirectories(state().changeSets());
    Path file = state().changeSets().resolve(name);
    Files.writeString(file, "");
    Files.setLastModifiedTime(file, FileTime.from(written));
    return file;
  }

  @Test
  void aFileIsNeverPutInThePlaceOfWhatIsNone() throws Exception {
    Path socket = folder.resolve("socket");
    try (ServerSocketChannel channel = ServerSocketChannel.open(StandardProtocolFamily.UNIX)) {
      channel.bind(UnixDomainSocketAddress.of(socket));
      assertThatThrownBy(() -> Files0600.whole(socket, out -> out.write(1)))
          .hasMessage(socket + " is no ordinary file");
      assertThat(Files.isRegularFile(socket)).isFalse();
    }
    assertThatThrownBy(() -> Files0600.whole(folder, out -> out.write(1)))
        .hasMessage(folder + " is a folder");
    assertThat(folder).isDirectoryNotContaining("glob:**.partial");
  }

  @Test
  void whereNothingWasDraftedTheFirstHasNumberOne() throws Exception {
    assertThat(state().newestChangeSet()).isEmpty();
    assertThat(state().newChangeSet("2026-11-27", false).getFileName())
        .hasToString("0001-2026-11-27.jsonl");
  }

  @Test
  void theNewestDraftHasTheHighestNumberWhateverTheClockSays() throws Exception {
    Instant now = Instant.now();
    draft("0001-2026-11-29.jsonl", now.plusSeconds(86_400));
    Path second = draft("0002-2026-11-27.jsonl", now.minusSeconds(86_400));
    assertThat(state().newestChangeSet()).contains(second);
    assertThat(state().newChangeSet("2026-11-26", false).getFileName())
        .hasToString("0003-2026-11-26.jsonl");
  }

  @Test
  void draftsOfOlderVersionsComeBeforeAllNumberedOnes() throws Exception {
    Path old = draft("2026-11-25T10-00-00Z.jsonl", Instant.now());
    Path older = draft("2026-11-24T10-00-00Z.jsonl", Instant.now());
    assertThat(state().newestChangeSet()).contains(old);
    Path numbered = draft("0001-2026-11-20.jsonl", Instant.now());
    assertThat(state().newestChangeSet()).contains(numbered);
    assertThat(older).exists();
  }

  @Test
  void numbersGoOnBeyondFourDigits() throws Exception {
    draft("9999-2026-11-27.jsonl", Instant.now());
    Path next = state().newChangeSet("2026-11-28", false);
    assertThat(next.getFileName()).hasToString("10000-2026-11-28.jsonl");
    Files.writeString(next, "");
    assertThat(state().newestChangeSet()).contains(next);
  }

  @Test
  void aFolderThatOthersCanWriteToIsTold() throws Exception {
    Path own = folder.resolve(".weftex");
    assertThat(state().exposure()).isEmpty();
    Files.createDirectory(own);
    Files.setPosixFilePermissions(own, PosixFilePermissions.fromString("rwxr-xr-x"));
    assertThat(state().exposure()).isEmpty();
    Files.setPosixFilePermissions(own, PosixFilePermissions.fromString("rwxrwx---"));
    assertThat(state().exposure()).hasValueSatisfying(w -> assertThat(w).contains("rwxrwx---"));
    Files.setPosixFilePermissions(own, PosixFilePermissions.fromString("rwx----w-"));
    assertThat(state().exposure()).hasValueSatisfying(w -> assertThat(w).contains("others"));
  }

  @Test
  void aFolderThatIsALinkIsTold() throws Exception {
    Path elsewhere = Files.createDirectory(folder.resolve("elsewhere"));
    Files.createSymbolicLink(folder.resolve(".weftex"), elsewhere);
    assertThat(state().exposure())
        .hasValueSatisfying(what -> assertThat(what).contains("is a link to " + elsewhere));
  }

  @Test
  void filesAreReadableByTheirOwnerAlone() throws Exception {
    Path file = folder.resolve("receipt");
    try (OutputStream out = Files0600.create(file)) {
      out.write(1);
    }
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
    Path made = folder.resolve("a/b");
    Files0600.createFolder(made);
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(made)))
        .isEqualTo("rwx------");
  }

  @Test
  void aLinkIsNotWrittenThrough() throws Exception {
    Path victim = folder.resolve("victim");
    Files.writeString(victim, "dear");
    Path link = folder.resolve("link");
    Files.createSymbolicLink(link, victim);
    assertThatThrownBy(() -> Files0600.create(link))
        .isInstanceOf(IOException.class)
        .hasMessageContaining(link + " is a link, which Weftex does not follow");
    assertThat(victim).hasContent("dear");
    Files.delete(link);
    Files.createSymbolicLink(link, folder.resolve("not-there"));
    assertThatThrownBy(() -> Files0600.create(link)).hasMessageContaining("is a link");
    assertThat(folder.resolve("not-there")).doesNotExist();
  }

  @Test
  void deletingALinkedFolderLeavesWhatItPointsTo() throws Exception {
    Path kept = Files.createDirectory(folder.resolve("kept"));
    Files.writeString(kept.resolve("page"), "text");
    Path gone = Files.createDirectory(folder.resolve("gone"));
    Files.createSymbolicLink(gone.resolve("link"), kept);
    Files0600.delete(gone);
    assertThat(gone).doesNotExist();
    assertThat(kept.resolve("page")).hasContent("text");
  }

  @Test
  void whatSomebodyElseTakesAwayMeanwhileIsGoneAllTheSame() throws Exception {
    for (int round = 0; round < 100; round++) {
      Path gone = Files.createDirectory(folder.resolve("gone"));
      List<Path> files = new ArrayList<>();
      for (int i = 0; i < 20; i++) {
        files.add(Files.writeString(gone.resolve("f" + i), "x"));
      }
      CompletableFuture<Void> other =
          CompletableFuture.runAsync(() -> files.forEach(file -> file.toFile().delete()));
      Files0600.delete(gone);
      other.join();
      assertThat(gone).doesNotExist();
    }
  }

  @Test
  void aClaimIsHeldOnceAndSaysByWhom() throws Exception {
    try (FileClaim held = state().claim("mark", "weftex mark\nby Mira").claim().orElseThrow()) {
      assertThat(state().claim("mark", "weftex draft").holder()).contains("weftex mark by Mira");
      assertThat(state().claim("draft", "weftex draft").claim())
          .hasValueSatisfying(StateFolderTest::close);
      assertThat(held).isNotNull();
    }
    assertThat(folder.resolve(".weftex/.mark.open")).isEmptyFile();
    assertThat(state().claim("mark", "weftex draft").claim())
        .hasValueSatisfying(StateFolderTest::close);
  }

  @Test
  void aClaimOfAFolderThatIsNotThereHasNoHolder() throws Exception {
    FileClaim.Attempt attempt = FileClaim.attempt(folder.resolve("not/there"), "weftex");
    assertThat(attempt.claim()).isEmpty();
    assertThat(attempt.holder()).isEmpty();
  }

  @Test
  void aClaimIsOfOneLine() throws Exception {
    Path file = folder.resolve("claim");
    FileClaim.Attempt first = FileClaim.attempt(file, "Mira\nTangen");
    assertThat(new String(Files.readAllBytes(file), StandardCharsets.UTF_8))
        .isEqualTo("Mira Tangen\n");
    close(first.claim().orElseThrow());
  }

  private static void close(FileClaim claim) {
    try {
      claim.close();
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }
}
