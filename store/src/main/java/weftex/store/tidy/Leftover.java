package weftex.store.tidy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import weftex.store.state.FileClaim;
import weftex.store.state.Files0600;

/**
 * Something that nobody needs any more.
 *
 * @param kind what it is
 * @param path the file or folder
 * @param at since when it is there, as an ISO 8601 instant
 * @param bytes how large it is
 */
public record Leftover(Kind kind, Path path, String at, long bytes) {

  /** What can be left over. */
  public enum Kind {
    DRAFT("draft"),
    RECEIPT("receipt"),
    BASE("earlier base"),
    RESTORE_POINT("restore point"),
    ASIDE("file that was set aside"),
    SERVER("server of its own into which files were loaded"),
    FAILURE("report of a failure"),
    TEMPORARY("temporary file of a process that is gone");

    private final String words;

    Kind(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  static Leftover of(Kind kind, Path path, String at) throws IOException {
    return new Leftover(kind, path, at, Files0600.size(path));
  }

  /** Takes it away. */
  public void remove() throws IOException {
    if (Files.isDirectory(path)) {
      Files0600.delete(path);
      return;
    }
    Files.deleteIfExists(path);
    // Who had a draft open said so in a file beside it.
    Files.deleteIfExists(FileClaim.beside(path));
  }
}
