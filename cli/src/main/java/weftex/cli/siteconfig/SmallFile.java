package weftex.cli.siteconfig;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

/** Reads files that people write, of which none is large. */
public final class SmallFile {
  private static final int LARGEST = 2 * 1024 * 1024;

  private SmallFile() {}

  /**
   * The text of a file.
   *
   * @throws IOException if it can't be read, or is larger than any that people write
   */
  public static String read(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      byte[] bytes = in.readNBytes(LARGEST + 1);
      if (bytes.length > LARGEST) {
        throw new IOException("it has more than " + LARGEST / 1024 / 1024 + " MB");
      }
      return new String(bytes, StandardCharsets.UTF_8);
    }
  }

  /** Why a file can't be read, in words. */
  static String reason(IOException e) {
    if (e instanceof NoSuchFileException) {
      return "it is not there";
    }
    return e instanceof AccessDeniedException
        ? "this user has no right to it"
        : String.valueOf(e.getMessage());
  }
}
