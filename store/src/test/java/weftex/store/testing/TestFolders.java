package weftex.store.testing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.junit.jupiter.api.extension.AnnotatedElementContext;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.io.TempDirFactory;

/**
 * Makes the tests' folders in memory where there is room and programs may run: they commit some ten
 * thousand times, and each commit waits for a disk.
 */
public final class TestFolders implements TempDirFactory {
  private static final Path MEMORY = Path.of("/dev/shm");
  private static final long ROOM = 2_000_000_000;
  private static final boolean IN_MEMORY = isUsable();

  @Override
  public Path createTempDirectory(AnnotatedElementContext element, ExtensionContext test)
      throws IOException {
    return make("weftex-test");
  }

  /** Makes a folder that whoever asks removes. */
  static Path make(String prefix) throws IOException {
    return IN_MEMORY
        ? Files.createTempDirectory(MEMORY, prefix)
        : Files.createTempDirectory(prefix);
  }

  private static boolean isUsable() {
    try {
      if (!Files.isWritable(MEMORY) || Files.getFileStore(MEMORY).getUsableSpace() < ROOM) {
        return false;
      }
      Path program =
          Files.createTempFile(
              MEMORY,
              "weftex-test",
              ".sh",
              PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------")));
      try {
        Files.writeString(program, "#!/bin/sh\nexit 0\n");
        return new ProcessBuilder(program.toString()).start().waitFor() == 0;
      } finally {
        Files.delete(program);
      }
    } catch (IOException e) {
      return false;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
  }
}
