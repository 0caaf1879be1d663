package weftex.store.tidy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import weftex.store.state.Files0600;

/** Puts a file in the place of one that says the same in another form. */
final class Rewriting {
  private Rewriting() {}

  /**
   * Replaces a file; it is gone only when the other one is whole and on the disk.
   *
   * @param other may be the same
   * @param body what the other one holds
   */
  static void replace(Path file, Path other, Files0600.Body body) throws IOException {
    FileTime at = Files.getLastModifiedTime(file);
    Path partial = other.resolveSibling(other.getFileName() + ".new");
    try {
      Files0600.whole(partial, body);
      Files.setLastModifiedTime(partial, at);
      Files0600.sync(partial);
      Files.move(
          partial, other, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    } finally {
      Files.deleteIfExists(partial);
    }
    Files0600.syncFolder(other.getParent());
    if (!other.equals(file)) {
      Files.deleteIfExists(file);
    }
  }
}
