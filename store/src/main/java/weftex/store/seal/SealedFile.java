package weftex.store.seal;

import com.exceptionfactory.jagged.RecipientStanzaReader;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.BufferedInputStream;
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

/**
 * A file whose content is sealed part by part, so that something can be appended by whoever knows
 * the receivers. Its first line, in the clear, names them; armored age files follow, and what is in
 * them, one behind the other, is the content. docs/formats.md has it in full.
 */
public final class SealedFile {
  /** What the first line begins with. */
  private static final byte[] FRONT =
      "{\"weftex\":\"sealed-change-set\"".getBytes(StandardCharsets.US_ASCII);

  private static final int FORMAT = 1;

  /** The first line of another file is not read to its end. */
  private static final int LONGEST_HEADER = 1 << 20;

  private static final JsonMapper JSON = new JsonMapper();

  private final Path file;
  private final Keyring keys;
  private final Receivers receivers;
  private final long front;

  /** Where each part begins in the content, once it was read. */
  private final List<SealedParts.Part> parts = new ArrayList<>();

  private SealedParts.Part last;
  private byte[] lastContent = {};

  private SealedFile(Path file, Keyring keys, Receivers receivers, long front) {
    this.file = file;
    this.keys = keys;
    this.receivers = receivers;
    this.front = front;
  }

  /** Whether a file says that it is sealed. */
  public static boolean isOne(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return Arrays.equals(in.readNBytes(FRONT.length), FRONT);
    }
  }

  /**
   * Opens a file that is sealed; its content is not looked at yet.
   *
   * @throws SealProblem if its first line is damaged
   */
  public static SealedFile open(Path file, Keyring keys) throws IOException {
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file))) {
      ByteArrayOutputStream line = new ByteArrayOutputStream();
      int each = in.read();
      while (each >= 0 && each != '\n' && line.size() < LONGEST_HEADER) {
        line.write(each);
        each = in.read();
      }
      JsonNode header = JSON.readTree(line.toByteArray());
      int format = header.path("format").asInt();
      if (each != '\n' || format < 1) {
        throw damaged(file, null);
      }
      if (format > FORMAT) {
        throw new SealProblem(
            file + " is sealed in format " + format + ", and this version reads format " + FORMAT,
            "Use the version of Weftex that wrote it, or draft again.");
      }
      List<String> lines = new ArrayList<>();
      header.path("receivers").forEach(receiver -> lines.add(receiver.asText()));
      return new SealedFile(file, keys, Receivers.of(lines), line.size() + 1L);
    } catch (com.fasterxml.jackson.core.JacksonException e) {
      throw damaged(file, e);
    }
  }

  static SealProblem damaged(Path file, Exception e) {
    return new SealProblem(
        "The seal of " + file + " is damaged, or something was written into it",
        "Fetch it again from where it came from, or draft again.",
        e);
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
    RecipientStanzaReader reader = keys.reader(receivers, file.toString());
    InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16);
    in.skipNBytes(front);
    parts.clear();
    return new SealedParts(file, in, front, reader, parts, strict);
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
        byte[] content = content(part);
        int count = (int) Math.min(length - done, content.length - from);
        System.arraycopy(content, (int) from, bytes, done, count);
        done += count;
      }
    }
    if (done < length) {
      throw new IOException("the change set " + file + " became shorter while it was open");
    }
    return bytes;
  }

  private byte[] content(SealedParts.Part part) throws IOException {
    if (!part.equals(last)) {
      byte[] sealed = new byte[(int) (part.end() - part.begin())];
      try (var channel = Files.newByteChannel(file)) {
        channel.position(part.begin());
        ByteBuffer into = ByteBuffer.wrap(sealed);
        while (into.hasRemaining() && channel.read(into) >= 0) {
          continue;
        }
      }
      lastContent = SealedParts.opened(file, sealed, keys.reader(receivers, file.toString()));
      last = part;
    }
    return lastContent;
  }

  /** A part that can be appended. */
  public byte[] part(byte[] content) throws IOException {
    return part(receivers, content, content.length);
  }

  private static byte[] part(Receivers receivers, byte[] content, int length) throws IOException {
    ByteArrayOutputStream sealed = new ByteArrayOutputStream(length + length / 2);
    try (OutputStream out = receivers.sealing(sealed)) {
      out.write(content, 0, length);
    }
    return sealed.toByteArray();
  }

  /**
   * Writes a file that is sealed from its first byte on.
   *
   * @param out stays open when the result is closed
   */
  public static OutputStream writing(OutputStream out, Receivers receivers) throws IOException {
    Map<String, Object> header = new LinkedHashMap<>();
    header.put("weftex", "sealed-change-set");
    header.put("format", FORMAT);
    header.put("receivers", receivers.lines());
    out.write(JSON.writeValueAsBytes(header));
    out.write('\n');
    return new Writing(out, receivers);
  }

  /** Gathers the content of a part, and seals it. */
  private static final class Writing extends OutputStream {
    private static final int PART = 1 << 20;

    private final OutputStream out;
    private final Receivers receivers;
    private final byte[] pending = new byte[PART];
    private int length;

    private Writing(OutputStream out, Receivers receivers) {
      this.out = out;
      this.receivers = receivers;
    }

    @Override
    public void write(int each) throws IOException {
      write(new byte[] {(byte) each}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int count) throws IOException {
      int done = 0;
      while (done < count) {
        int some = Math.min(count - done, PART - length);
        System.arraycopy(bytes, from + done, pending, length, some);
        length += some;
        done += some;
        if (length == PART) {
          seal();
        }
      }
    }

    private void seal() throws IOException {
      if (length > 0) {
        out.write(part(receivers, pending, length));
        length = 0;
      }
    }

    @Override
    public void close() throws IOException {
      seal();
      out.flush();
    }
  }
}
