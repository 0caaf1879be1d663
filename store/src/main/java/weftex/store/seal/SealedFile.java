package weftex.store.seal;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.store.FileProblem;

/**
 * A file whose content is sealed part by part, so that something can be appended by whoever knows
 * the receivers. Its first line, in the clear, names them; armored age files follow, and what is in
 * them, one behind the other, is the content. docs/formats.md has it in full.
 */
public final class SealedFile {
  /** What a change set is called in its first line. */
  public static final String CHANGE_SET = "change-set";

  /** What to do about a damaged file of the state folder. */
  static final String FROM_BACKUP = "Bring it back from a backup of the state folder.";

  /** What to do about any other one. */
  private static final String FROM_SENDER =
      "Fetch it again from where it came from, or draft again.";

  /** What the first line begins with. */
  private static final byte[] FRONT = "{\"weftex\":\"sealed-".getBytes(StandardCharsets.US_ASCII);

  private static final int FORMAT = 1;

  /** The first line of another file is not read to its end. */
  private static final int LONGEST_HEADER = 1 << 20;

  private static final JsonMapper JSON = new JsonMapper();

  final Path file;
  final Keyring keys;
  final Receivers receivers;
  private final long front;
  private final String again;

  /** Where each part begins in the content, once it was read. */
  private final List<SealedParts.Part> parts = new ArrayList<>();

  private final OpenedContent held;

  private SealedFile(
      Path file, Keyring keys, Receivers receivers, long front, String again, OpenedContent held) {
    this.file = file;
    this.keys = keys;
    this.receivers = receivers;
    this.front = front;
    this.again = again;
    this.held = held;
  }

  /** Whether a file says that it is sealed. */
  public static boolean isOne(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return Arrays.equals(in.readNBytes(FRONT.length), FRONT);
    }
  }

  /** Whether a file was cut off, or is still being written, before there was anything in it. */
  public static boolean isHardlyBegun(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      byte[] front = in.readNBytes(LONGEST_HEADER);
      for (byte each : front) {
        if (each == '\n') {
          return false;
        }
      }
      return front.length < LONGEST_HEADER;
    }
  }

  /** Whether a file says that it is sealed, and is no change set, which is sealed for people. */
  static boolean isOfState(Path file) throws IOException {
    if (!isOne(file)) {
      return false;
    }
    byte[] changeSet =
        (new String(FRONT, StandardCharsets.US_ASCII) + CHANGE_SET)
            .getBytes(StandardCharsets.US_ASCII);
    try (InputStream in = Files.newInputStream(file)) {
      return !Arrays.equals(in.readNBytes(changeSet.length), changeSet);
    }
  }

  /**
   * Opens a file that is sealed; its content is not looked at yet.
   *
   * @throws FileProblem if its first line is damaged
   */
  public static SealedFile open(Path file, Keyring keys) throws IOException {
    return open(file, CHANGE_SET, keys, new OpenedContent());
  }

  /**
   * The same for a file of another kind.
   *
   * @param what it must be, as its first line says
   * @param held what is held of files that are open at once, no more than of one
   */
  static SealedFile open(Path file, String what, Keyring keys, OpenedContent held)
      throws IOException {
    String again = what.equals(CHANGE_SET) ? FROM_SENDER : FROM_BACKUP;
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file))) {
      ByteArrayOutputStream line = new ByteArrayOutputStream();
      int each = in.read();
      while (each >= 0 && each != '\n' && line.size() < LONGEST_HEADER) {
        line.write(each);
        each = in.read();
      }
      JsonNode header = JSON.readTree(line.toByteArray());
      int format = header.path("format").asInt();
      boolean isThat = header.path("weftex").asText().equals("sealed-" + what);
      if (each != '\n' || format < 1 || !isThat) {
        throw damaged(file, again, null);
      }
      if (format > FORMAT) {
        throw new FileProblem(
            file + " is sealed in format " + format + ", and this version reads format " + FORMAT,
            "Use the version of Weftex that wrote it, or draft again.");
      }
      List<String> lines = new ArrayList<>();
      header.path("receivers").forEach(receiver -> lines.add(receiver.asText()));
      return new SealedFile(file, keys, Receivers.of(lines), line.size() + 1L, again, held);
    } catch (com.fasterxml.jackson.core.JacksonException e) {
      throw damaged(file, again, e);
    }
  }

  /**
   * @param again where a whole one is to be had, as a sentence
   */
  static FileProblem damaged(Path file, String again, Exception e) {
    return new FileProblem(
        "The seal of " + file + " is damaged, or something was written into it", again, e);
  }

  /** For whom it is sealed, as its first line says; whoever can write to the file can change it. */
  public Receivers receivers() {
    return receivers;
  }

  /** Its content. */
  public InputStream content() throws IOException {
    return content(true);
  }

  /**
   * Its content up to a last part that was cut off.
   *
   * @param strict whether such a part is a problem
   */
  private InputStream content(boolean strict) throws IOException {
    SealedParts.Opener opener = opener();
    InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16);
    in.skipNBytes(front);
    parts.clear();
    return new SealedParts(opener, in, front, parts, strict);
  }

  SealedParts.Opener opener() throws IOException {
    return new SealedParts.Opener(file, again, keys.reader(receivers, file.toString()));
  }

  /** Whether its last part is whole. */
  public boolean endsWhole() throws IOException {
    try (FileChannel channel = FileChannel.open(file)) {
      ByteBuffer end = ByteBuffer.allocate(SealedParts.END.length + 1);
      long from = channel.size() - end.capacity();
      return from >= 0
          && channel.read(end, from) == end.capacity()
          && SealedParts.isEnd(end.array());
    }
  }

  /** How many bytes of the file are whole parts; what is behind them was cut off. */
  public long wholeLength() throws IOException {
    try (InputStream in = content(false)) {
      in.transferTo(OutputStream.nullOutputStream());
    }
    return parts.isEmpty() ? front : parts.get(parts.size() - 1).end();
  }

  /** The content up to the end of the last whole part. */
  public InputStream wholeContent() throws IOException {
    return content(false);
  }

  /** Some bytes of the content, from a place that was read before. */
  public synchronized byte[] at(long offset, int length) throws IOException {
    byte[] bytes = new byte[length];
    int done = 0;
    for (SealedParts.Part part : parts) {
      long from = offset + done - part.content();
      if (done < length && from >= 0 && from < part.contentLength()) {
        byte[] content = held.content(this, part);
        int count = (int) Math.min(length - done, content.length - from);
        System.arraycopy(content, (int) from, bytes, done, count);
        done += count;
      }
    }
    if (done < length) {
      throw new IOException(file + " became shorter while it was open");
    }
    return bytes;
  }

  byte[] bytes(long from, int count) throws IOException {
    byte[] bytes = new byte[count];
    try (var channel = Files.newByteChannel(file)) {
      channel.position(from);
      ByteBuffer into = ByteBuffer.wrap(bytes);
      while (into.hasRemaining() && channel.read(into) >= 0) {
        continue;
      }
    }
    return bytes;
  }

  /**
   * The content of the last parts, from the beginning of one of them, up to a last one that was cut
   * off.
   *
   * @param least how many bytes are wanted, if there are so many
   */
  public byte[] tail(int least) throws IOException {
    long size = Files.size(file);
    SealedParts.Opener opener = opener();
    for (long window = 8L * least; ; window *= 8) {
      long from = Math.max(front, size - window);
      byte[] end = bytes(from, (int) (size - from));
      int first = SealedParts.firstIn(end);
      byte[] content = {};
      if (first >= 0) {
        InputStream in = new ByteArrayInputStream(end, first, end.length - first);
        content = new SealedParts(opener, in, 0, new ArrayList<>(), false).readAllBytes();
      }
      if (content.length >= least || from == front) {
        return content;
      }
    }
  }

  /** A part that can be appended. */
  public byte[] part(byte[] content) throws IOException {
    return part(receivers, content, content.length);
  }

  static byte[] part(Receivers receivers, byte[] content, int length) throws IOException {
    ByteArrayOutputStream sealed = new ByteArrayOutputStream(length + length / 2);
    try (OutputStream out = receivers.sealing(sealed)) {
      out.write(content, 0, length);
    }
    return sealed.toByteArray();
  }

  /**
   * Writes a file that is sealed from its first byte on.
   *
   * @param what it is, as its first line says
   * @param out stays open when the result is closed
   */
  public static OutputStream writing(OutputStream out, String what, Receivers receivers)
      throws IOException {
    return writing(out, what, receivers, false);
  }

  /** The same; each time that it is flushed, what was written so far is whole parts. */
  static OutputStream writingParts(OutputStream out, String what, Receivers receivers)
      throws IOException {
    return writing(out, what, receivers, true);
  }

  private static OutputStream writing(
      OutputStream out, String what, Receivers receivers, boolean byFlush) throws IOException {
    Map<String, Object> header = new LinkedHashMap<>();
    header.put("weftex", "sealed-" + what);
    header.put("format", FORMAT);
    header.put("receivers", receivers.lines());
    out.write(JSON.writeValueAsBytes(header));
    out.write('\n');
    return new SealedWriting(out, receivers, byFlush);
  }
}
