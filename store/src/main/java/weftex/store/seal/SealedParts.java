package weftex.store.seal;

import com.exceptionfactory.jagged.RecipientStanzaReader;
import com.exceptionfactory.jagged.framework.armor.ArmoredDecryptingChannelFactory;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.ReadableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.util.Arrays;
import java.util.List;
import weftex.store.FileProblem;
import weftex.store.pack.PartsIn;

/** The content of armored age files that stand one behind the other. */
final class SealedParts extends PartsIn {
  private static final byte[] BEGIN =
      "-----BEGIN AGE ENCRYPTED FILE-----".getBytes(StandardCharsets.US_ASCII);
  static final byte[] END = "-----END AGE ENCRYPTED FILE-----".getBytes(StandardCharsets.US_ASCII);

  /** Nothing here writes longer ones; a longer one would only fill the memory. */
  private static final int LONGEST_LINE = 80;

  private static final int LONGEST_PART = 64 << 20;

  private final Opener opener;
  private final InputStream in;
  private final List<Part> parts;
  private final boolean strict;
  private long at;
  private long content;

  /**
   * A part of a file.
   *
   * @param begin where it begins in the file
   * @param end where what follows it begins
   * @param content where it begins in the content
   */
  record Part(long begin, long end, long content, int contentLength) {}

  /**
   * Opens the parts of a file.
   *
   * @param again where a whole file is to be had, as a sentence
   */
  record Opener(Path file, String again, RecipientStanzaReader reader) {

    /** What is in a part. */
    byte[] opened(byte[] part) throws IOException {
      try (ReadableByteChannel channel =
          new ArmoredDecryptingChannelFactory()
              .newDecryptingChannel(
                  Channels.newChannel(new ByteArrayInputStream(part)), List.of(reader))) {
        ByteArrayOutputStream content = new ByteArrayOutputStream(part.length);
        ByteBuffer some = ByteBuffer.allocate(1 << 16);
        while (channel.read(some) >= 0) {
          content.write(some.array(), 0, some.position());
          some.clear();
        }
        return content.toByteArray();
      } catch (GeneralSecurityException | IOException | RuntimeException e) {
        throw damaged(e);
      }
    }

    private FileProblem damaged(Exception e) {
      return SealedFile.damaged(file, again, e);
    }
  }

  /**
   * @param in the file, from its first part on
   * @param at where that is
   * @param parts takes what was read
   * @param strict whether a last part that was cut off is a problem, and not the end
   */
  SealedParts(Opener opener, InputStream in, long at, List<Part> parts, boolean strict) {
    this.opener = opener;
    this.in = in;
    this.at = at;
    this.parts = parts;
    this.strict = strict;
  }

  @Override
  protected byte[] nextPart() throws IOException {
    long begin = at;
    ByteArrayOutputStream part = new ByteArrayOutputStream();
    byte[] line = line();
    if (line.length == 0) {
      return null;
    }
    boolean whole = is(line, BEGIN);
    if (!whole && !isBeginningOf(line, BEGIN)) {
      throw opener.damaged(null);
    }
    while (line.length > 0 && !is(line, END) && part.size() < LONGEST_PART) {
      part.write(line);
      line = line();
    }
    part.write(line);
    if (!is(line, END)) {
      if (part.size() >= LONGEST_PART) {
        throw opener.damaged(null);
      }
      checkCutOff();
      return null;
    }
    byte[] opened = opener.opened(part.toByteArray());
    parts.add(new Part(begin, at, content, opened.length));
    content += opened.length;
    return opened;
  }

  private void checkCutOff() throws FileProblem {
    if (strict) {
      throw new FileProblem(
          opener.file() + " ends in the middle of a sealed part: it was cut short",
          "Fetch the whole file again. If a decision was cut off while it was written,"
              + " 'weftex review "
              + opener.file()
              + " --list' takes that away.");
    }
  }

  /** A line with its line feed; empty at the end. */
  private byte[] line() throws IOException {
    byte[] line = new byte[LONGEST_LINE];
    int length = 0;
    while (length < LONGEST_LINE) {
      int each = in.read();
      if (each < 0) {
        break;
      }
      at++;
      line[length++] = (byte) each;
      if (each == '\n') {
        break;
      }
    }
    return Arrays.copyOf(line, length);
  }

  /** Where the first part begins that does so behind a line feed; -1 if none does. */
  static int firstIn(byte[] bytes) {
    for (int i = 0; i + BEGIN.length < bytes.length; i++) {
      if ((i == 0 || bytes[i - 1] == '\n')
          && Arrays.equals(bytes, i, i + BEGIN.length, BEGIN, 0, BEGIN.length)) {
        return i;
      }
    }
    return -1;
  }

  /** Whether a line closes a part. */
  static boolean isEnd(byte[] line) {
    return is(line, END);
  }

  private static boolean is(byte[] line, byte[] mark) {
    return line.length == mark.length + 1
        && line[mark.length] == '\n'
        && isBeginningOf(Arrays.copyOf(line, mark.length), mark);
  }

  private static boolean isBeginningOf(byte[] line, byte[] mark) {
    return line.length <= mark.length && Arrays.equals(line, 0, line.length, mark, 0, line.length);
  }

  @Override
  public void close() throws IOException {
    in.close();
  }
}
