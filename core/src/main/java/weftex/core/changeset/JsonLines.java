package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamWriteFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** JSON Lines: one object a line, UTF-8, each line closed by a line feed. */
public final class JsonLines {
  /** A 16 MB value in Base64, with room to spare. */
  private static final int LONGEST_STRING = 512 * 1024 * 1024;

  private static final JsonFactory FACTORY =
      JsonFactory.builder()
          .streamReadConstraints(
              StreamReadConstraints.builder().maxStringLength(LONGEST_STRING).build())
          .disable(StreamWriteFeature.AUTO_CLOSE_TARGET)
          .disable(StreamWriteFeature.FLUSH_PASSED_TO_STREAM)
          .build();
  private static final ObjectMapper MAPPER = JsonMapper.builder(FACTORY).build();

  private JsonLines() {}

  /** Writes the members of one object. */
  public interface Members {
    void write(JsonGenerator json) throws IOException;
  }

  /** One line with its line feed. */
  public static byte[] line(Members members) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream(1024);
    write(out, members);
    return out.toByteArray();
  }

  /**
   * Writes one line with its line feed, however long, and neither flushes nor closes the stream.
   */
  public static void write(OutputStream out, Members members) throws IOException {
    try (JsonGenerator json = FACTORY.createGenerator(out)) {
      json.writeStartObject();
      members.write(json);
      json.writeEndObject();
    }
    out.write('\n');
  }

  /**
   * Parses one line.
   *
   * @throws IOException if it is not one JSON object
   */
  public static JsonNode parse(byte[] line) throws IOException {
    JsonNode node = MAPPER.readTree(line);
    if (node == null || !node.isObject()) {
      throw new IOException("not a JSON object");
    }
    return node;
  }

  /**
   * The number at the beginning of a line that begins {@code {"outer":{"inner":7}, found without
   * reading the rest of it.
   *
   * @throws IOException if the line begins otherwise
   */
  public static int numberAtFront(byte[] line, String outer, String inner) throws IOException {
    byte[] front = ("{\"" + outer + "\":{\"" + inner + "\":").getBytes(StandardCharsets.UTF_8);
    int end = front.length;
    while (end < line.length && (line[end] == '-' || line[end] >= '0' && line[end] <= '9')) {
      end++;
    }
    if (!Arrays.equals(line, 0, Math.min(front.length, line.length), front, 0, front.length)
        || end == front.length) {
      throw new IOException("the line does not begin with " + outer + "." + inner);
    }
    String digits = new String(line, front.length, end - front.length, StandardCharsets.US_ASCII);
    try {
      return Integer.parseInt(digits);
    } catch (NumberFormatException e) {
      throw new IOException("the line begins with an odd number: " + digits, e);
    }
  }

  /** A parser of one line. */
  static JsonParser parser(byte[] line) throws IOException {
    return FACTORY.createParser(line);
  }

  /** A parser of many objects, one behind the other. */
  static JsonParser parser(InputStream in) throws IOException {
    return FACTORY.createParser(in);
  }

  /** An object without members. */
  static ObjectNode object() {
    return MAPPER.createObjectNode();
  }

  /**
   * The value that a parser stands at, as a tree; the members that are left if it stands at one.
   */
  static JsonNode tree(JsonParser json) throws IOException {
    return MAPPER.readTree(json);
  }

  /** Reads lines as bytes, so that they can be hashed as they stand. */
  public static final class Lines {
    private static final int USUAL = 1 << 16;
    private static final int SHARED = 1 << 21;
    private static final int MOST_AT_ONCE = 1 << 22;

    private final InputStream in;
    private byte[] buffer = new byte[USUAL];
    private int start;
    private int end;
    private boolean complete = true;

    public Lines(InputStream in) {
      this.in = in;
    }

    /**
     * The next line without its line feed, or an empty array of length 0 and {@link #atEnd} after
     * the last.
     */
    public byte[] next() throws IOException {
      int from = start;
      while (true) {
        int feed = lineFeed(buffer, from, end);
        if (feed < end) {
          byte[] line = Arrays.copyOfRange(buffer, start, feed);
          start = feed + 1;
          shrink();
          return line;
        }
        from = end - start;
        fill();
        if (start == end && end == 0) {
          return new byte[0];
        }
        if (from == end) {
          complete = false;
          byte[] line = Arrays.copyOfRange(buffer, start, end);
          start = end = 0;
          return line;
        }
      }
    }

    /** A long line must not hold its memory until the end of the file. */
    private void shrink() {
      if (buffer.length > SHARED && end - start < USUAL) {
        byte[] smaller = new byte[USUAL];
        System.arraycopy(buffer, start, smaller, 0, end - start);
        buffer = smaller;
        end -= start;
        start = 0;
      }
    }

    private static int lineFeed(byte[] bytes, int from, int end) {
      int at = from;
      while (at < end && bytes[at] != '\n') {
        at++;
      }
      return at;
    }

    /** Whether nothing is left. */
    public boolean atEnd() throws IOException {
      if (start == end) {
        fill();
      }
      return start == end;
    }

    /** Whether every line so far was closed by a line feed. */
    public boolean isComplete() {
      return complete;
    }

    private void fill() throws IOException {
      System.arraycopy(buffer, start, buffer, 0, end - start);
      end -= start;
      start = 0;
      if (end == buffer.length) {
        buffer = Arrays.copyOf(buffer, buffer.length + Math.min(buffer.length, MOST_AT_ONCE));
      }
      int read = in.read(buffer, end, buffer.length - end);
      end += Math.max(read, 0);
    }
  }
}
