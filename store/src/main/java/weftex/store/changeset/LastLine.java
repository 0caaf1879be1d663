package weftex.store.changeset;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.Optional;
import weftex.core.changeset.JsonLines;

/**
 * The last line of a file that is appended to, which a full disk or a loss of power may have cut
 * off.
 */
final class LastLine {
  private static final byte[] DRAFTED = "{\"drafted\"".getBytes(StandardCharsets.US_ASCII);

  private LastLine() {}

  /** Whether it is closed by a line feed. */
  public static boolean isWhole(Path file) throws IOException {
    try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
      ByteBuffer last = ByteBuffer.allocate(1);
      return channel.read(last, Math.max(0, channel.size() - 1)) == 1 && last.get(0) == '\n';
    }
  }

  /**
   * A last line that is not whole.
   *
   * @param before bytes of whole lines before it
   * @param onlyLineFeed whether nothing but its line feed is missing
   */
  record Torn(long before, boolean onlyLineFeed) {}

  /**
   * The torn last line of a change set; empty if there is none, or if it is in the drafted part,
   * which can't do without it.
   */
  static Optional<Torn> torn(InputStream changeSet) throws IOException {
    JsonLines.Lines lines = new JsonLines.Lines(changeSet);
    boolean drafted = false;
    long whole = 0;
    while (!lines.atEnd()) {
      byte[] line = lines.next();
      if (!lines.isComplete()) {
        return drafted ? Optional.of(new Torn(whole, isObject(line))) : Optional.empty();
      }
      drafted |= begins(line, DRAFTED);
      whole += line.length + 1L;
    }
    return Optional.empty();
  }

  /** Whether the drafted part of a change set is whole. */
  static boolean isDrafted(InputStream changeSet) throws IOException {
    JsonLines.Lines lines = new JsonLines.Lines(changeSet);
    while (!lines.atEnd()) {
      if (begins(lines.next(), DRAFTED)) {
        return lines.isComplete();
      }
    }
    return false;
  }

  private static boolean isObject(byte[] line) {
    try {
      JsonLines.parse(line);
      return true;
    } catch (IOException e) {
      return false;
    }
  }

  private static boolean begins(byte[] line, byte[] with) {
    return line.length >= with.length && Arrays.equals(line, 0, with.length, with, 0, with.length);
  }
}
