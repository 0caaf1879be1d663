package weftex.store.sqltext;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Optional;
import weftex.core.row.Value;

/**
 * Reads a file of SQL statement by statement, as the databases' own clients do: strings, quoted
 * names, comments and {@code DELIMITER} are known. Memory holds one statement.
 */
public final class SqlStatements {
  private static final byte[] BINARY = "_binary ".getBytes(StandardCharsets.US_ASCII);

  /** As long as a Java array can be, less some room. */
  private static final int LONGEST = Integer.MAX_VALUE - 64;

  private static final String DELIMITER = "delimiter";
  private static final int MOST_OF_A_WORD = 10;
  private static final char REPLACEMENT = '\uFFFD';

  private final InputStream in;
  private final boolean backslash;
  private final byte[] ahead = new byte[1 << 16];
  private int at;
  private int read;
  private byte[] text = new byte[1 << 12];
  private int size;
  private byte[] end = {';'};
  private Charset charset = StandardCharsets.UTF_8;
  private int next;
  private long line = 1;

  // By these the end of a trigger's body is known: ';', END, ';'.
  private final StringBuilder word = new StringBuilder();
  private int words;
  private boolean trigger;
  private boolean afterSemicolon;
  private boolean bodyEnds;

  /**
   * A statement without its end.
   *
   * @param line where it begins, from 1
   */
  public record Statement(String text, long line) {}

  /**
   * @param backslash whether a backslash in a string takes the next character as it is, and {@code
   *     DELIMITER} is known; if not, the body of a trigger ends with {@code END}
   */
  public SqlStatements(InputStream in, boolean backslash) throws IOException {
    this.in = in;
    this.backslash = backslash;
    this.next = read();
  }

  private int read() throws IOException {
    if (at == read) {
      read = Math.max(0, in.read(ahead));
      at = 0;
    }
    return at < read ? ahead[at++] & 0xFF : -1;
  }

  /**
   * The next statement; empty at the end of the file.
   *
   * @throws IOException if the file can't be read, or a statement is not in UTF-8
   */
  public Optional<Statement> next() throws IOException {
    begin();
    long from = line;
    while (next >= 0) {
      if (size == 0) {
        from = line;
      }
      boolean ended = step();
      if (ended && size > 0) {
        return Optional.of(statement(from));
      }
      if (ended) {
        begin();
      }
    }
    wordEnds();
    return isBlank() ? Optional.empty() : Optional.of(statement(from));
  }

  private void begin() {
    size = 0;
    word.setLength(0);
    words = 0;
    trigger = false;
    afterSemicolon = false;
    bodyEnds = false;
  }

  /** Takes in what comes next; whether that ends the statement, its end cut off. */
  private boolean step() throws IOException {
    int c = next;
    if (size == 0 && c <= ' ') {
      skip();
      return false;
    }
    if (c == '\'' || c == '"' || c == '`' || c == '[' && !backslash) {
      other();
      quoted(c == '[' ? ']' : c);
      return false;
    }
    if (c == '#' && backslash) {
      lineComment(0);
      return false;
    }
    take();
    if (c == '-' && next == '-') {
      lineComment(1);
      return false;
    }
    if (c == '/' && next == '*') {
      comment();
      return false;
    }
    if (!backslash) {
      follow(c);
    }
    if (backslash && size == DELIMITER.length() + 1 && isDelimiter()) {
      delimiter();
      return true;
    }
    return endsStatement();
  }

  private void follow(int c) {
    if (c == '_' || c >= 0x80 || Character.isLetterOrDigit(c)) {
      // Longer ones are no keywords.
      if (word.length() < MOST_OF_A_WORD) {
        word.append((char) c);
      }
      return;
    }
    wordEnds();
    if (c > ' ' && c != ';') {
      afterSemicolon = false;
      bodyEnds = false;
    }
  }

  private void other() {
    wordEnds();
    afterSemicolon = false;
    bodyEnds = false;
  }

  private void wordEnds() {
    if (word.isEmpty()) {
      return;
    }
    String said = word.toString().toUpperCase(Locale.ROOT);
    word.setLength(0);
    words++;
    trigger |= !backslash && said.equals("TRIGGER") && words <= 3;
    bodyEnds = said.equals("END") && afterSemicolon;
    afterSemicolon = false;
  }

  private boolean endsStatement() {
    boolean here =
        text[size - 1] == end[end.length - 1]
            && size >= end.length
            && Arrays.equals(text, size - end.length, size, end, 0, end.length);
    if (here && trigger && !bodyEnds) {
      afterSemicolon = true;
      return false;
    }
    if (here) {
      size -= end.length;
    }
    return here;
  }

  private int take() throws IOException {
    int c = next;
    room(1);
    text[size++] = (byte) c;
    skip();
    return c;
  }

  private void skip() throws IOException {
    line += next == '\n' ? 1 : 0;
    next = read();
  }

  /** Takes what comes up to a byte that means something within quotes. */
  private void plain(int closing) throws IOException {
    int from = at - 1;
    int to = from;
    while (to < read && ahead[to] != closing && ahead[to] != '\\' && ahead[to] != '\n') {
      to++;
    }
    int length = to - from;
    room(length);
    System.arraycopy(ahead, from, text, size, length);
    size += length;
    at = to;
    next = read();
  }

  private void room(int more) throws IOException {
    if (text.length - size >= more) {
      return;
    }
    if ((long) size + more > LONGEST) {
      throw new IOException("a statement is longer than 2 GB");
    }
    text = Arrays.copyOf(text, (int) Math.min(LONGEST, Math.max(size + more, text.length * 2L)));
  }

  private void quoted(int closing) throws IOException {
    int from = size;
    string(closing);
    if (!backslash || closing != '\'' || "IiRr".indexOf(text[0]) < 0) {
      // Only in an INSERT or REPLACE a string is a value.
      return;
    }
    boolean utf8 = charset.equals(StandardCharsets.UTF_8);
    boolean bytes =
        from >= BINARY.length
            && Arrays.equals(text, from - BINARY.length, from, BINARY, 0, BINARY.length);
    if (bytes || utf8 && !new Value.Text(Arrays.copyOfRange(text, from, size)).isWellFormed()) {
      hex(from, "");
    } else if (!utf8 && isBeyondAscii(from)) {
      // The server knows which columns are text, and converts those.
      hex(from, "_latin1 ");
    }
  }

  private boolean isBeyondAscii(int from) {
    for (int i = from; i < size; i++) {
      if (text[i] < 0) {
        return true;
      }
    }
    return false;
  }

  /** Bytes that stand in quotes are no text in any character set, so they are written as digits. */
  private void hex(int from, String introducer) throws IOException {
    ByteArrayOutputStream plain = new ByteArrayOutputStream(size - from);
    for (int i = from + 1; i < size - 1; i++) {
      int c = text[i];
      if (c == '\\') {
        c = unescaped(text[++i]);
      } else if (c == '\'') {
        i++;
      }
      plain.write(c);
    }
    String digits = HexFormat.of().formatHex(plain.toByteArray());
    byte[] written =
        (digits.isEmpty() ? "''" : introducer + "0x" + digits).getBytes(StandardCharsets.US_ASCII);
    size = from;
    room(written.length);
    System.arraycopy(written, 0, text, size, written.length);
    size += written.length;
  }

  private static int unescaped(int c) {
    return switch (c) {
      case '0' -> 0;
      case 'n' -> '\n';
      case 'r' -> '\r';
      case 't' -> '\t';
      case 'b' -> '\b';
      case 'Z' -> 26;
      default -> c;
    };
  }

  private void string(int closing) throws IOException {
    take();
    while (next >= 0) {
      if (next != closing && next != '\\' && next != '\n') {
        plain(closing);
        continue;
      }
      int c = take();
      if (c == '\\' && backslash && closing != '`' && next >= 0) {
        take();
      } else if (c == closing && (next != closing || closing == ']')) {
        return;
      } else if (c == closing) {
        take();
      }
    }
  }

  /**
   * Passes over the rest of a line.
   *
   * @param taken how much of the comment is in the statement already
   */
  private void lineComment(int taken) throws IOException {
    wordEnds();
    size -= taken;
    while (next >= 0 && next != '\n') {
      skip();
    }
  }

  /** What a server executes within a comment stays; other comments fall away. */
  private void comment() throws IOException {
    wordEnds();
    int from = size - 1;
    take();
    boolean executed = backslash && (next == '!' || next == 'M');
    int last = 0;
    while (next >= 0) {
      if (executed && (next == '\'' || next == '"' || next == '`')) {
        quoted(next);
        last = 0;
        continue;
      }
      int c = take();
      if (last == '*' && c == '/') {
        break;
      }
      last = c;
      size = executed ? size : from + 2;
    }
    if (!executed) {
      size = from;
      if (from > 0) {
        text[size++] = ' ';
      }
    }
  }

  private boolean isDelimiter() {
    String said = new String(text, 0, size, StandardCharsets.ISO_8859_1);
    return said.substring(0, DELIMITER.length()).equalsIgnoreCase(DELIMITER)
        && said.charAt(DELIMITER.length()) <= ' ';
  }

  private void delimiter() throws IOException {
    size = 0;
    while (next >= 0 && next != '\n') {
      take();
    }
    String said = new String(text, 0, size, StandardCharsets.ISO_8859_1).strip();
    end = said.isEmpty() ? end : said.getBytes(StandardCharsets.ISO_8859_1);
    size = 0;
  }

  /** Says in what character set the rest of the file is, as a statement of it declared. */
  public void declared(Charset declared) {
    this.charset = declared;
  }

  private boolean isBlank() {
    for (int i = 0; i < size; i++) {
      if (text[i] > ' ') {
        return false;
      }
    }
    return true;
  }

  private Statement statement(long from) throws IOException {
    if (!charset.equals(StandardCharsets.UTF_8)) {
      return new Statement(new String(text, 0, size, charset).strip(), from);
    }
    String decoded = new String(text, 0, size, StandardCharsets.UTF_8);
    try {
      if (decoded.indexOf(REPLACEMENT) >= 0) {
        // It may stand there, or for what could not be read.
        StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(text, 0, size));
      }
      return new Statement(decoded.strip(), from);
    } catch (CharacterCodingException e) {
      throw new IOException("the statement that begins in line " + from + " is not in UTF-8", e);
    }
  }
}
