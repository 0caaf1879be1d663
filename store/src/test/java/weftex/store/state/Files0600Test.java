package weftex.store.state;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class Files0600Test {
  @TempDir Path folder;

  @Test
  void allFilesBelowAFolderInTheirOrder() throws IOException {
    Path second = Files.writeString(folder.resolve("b"), "12");
    Path inner = Files.writeString(Files.createDirectory(folder.resolve("a")).resolve("z"), "123");
    Files.createDirectory(folder.resolve("empty"));
    assertThat(Files0600.in(folder)).containsExactly(inner, second);
    assertThat(Files0600.size(folder)).isEqualTo(5);
    assertThat(Files0600.in(second)).containsExactly(second);
    assertThat(Files0600.in(folder.resolve("nothing"))).isEmpty();
    assertThat(Files0600.size(folder.resolve("nothing"))).isZero();
  }

  /** Another command makes temporary files in the same state folder, and takes them away. */
  @Test
  void filesThatGoMeanwhileArePassedOver() throws Exception {
    Path stays = Files.writeString(folder.resolve("stays"), "1234");
    AtomicBoolean done = new AtomicBoolean();
    CompletableFuture<Void> other = CompletableFuture.runAsync(() -> comeAndGo(done));
    try {
      for (int i = 0; i < 2000; i++) {
        assertThat(Files0600.in(folder)).contains(stays);
        assertThat(Files0600.size(folder)).isGreaterThanOrEqualTo(4);
      }
    } finally {
      done.set(true);
      other.join();
    }
  }

  private void comeAndGo(AtomicBoolean done) {
    try {
      while (!done.get()) {
        Path below = Files.createTempDirectory(folder, "comes");
        for (int i = 0; i < 10; i++) {
          Files.createTempFile(below, "goes", "");
        }
        Files0600.delete(below);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
