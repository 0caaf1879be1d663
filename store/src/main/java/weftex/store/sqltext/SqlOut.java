package weftex.store.sqltext;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Bytes of SQL that are gathered before they are written. */
public final class SqlOut {
  private static final byte[] HEX = "0123456789abcdef".getBytes(StandardCharsets.US_ASCII);

  private byte[] bytes = new byte[1 << 20];
  private int size;

  /** Puts text. */
  public SqlOut put(String text) {
    return put(text.getBytes(StandardCharsets.UTF_8));
  }

  /** Puts bytes as they are. */
  public SqlOut put(byte[] some) {
    room(some.length);
    System.arraycopy(some, 0, bytes, size, some.length);
    size += some.length;
    return this;
  }

  /** Puts one byte. */
  public SqlOut put(char sign) {
    room(1);
    bytes[size++] = (byte) sign;
    return this;
  }

  /** Puts two hexadecimal digits for each byte. */
  public SqlOut hex(byte[] some) {
    room(some.length * 2);
    for (byte b : some) {
      bytes[size++] = HEX[b >> 4 & 0xF];
      bytes[size++] = HEX[b & 0xF];
    }
    return this;
  }

  /**
   * Puts text between single quotes.
   *
   * @param escapes what stands in a byte's place, by the byte; null where it stays
   */
  public SqlOut quoted(byte[] utf8, byte[][] escapes) {
    put('\'');
    int from = 0;
    for (int i = 0; i < utf8.length; i++) {
      byte[] escape = utf8[i] < 0 ? null : escapes[utf8[i]];
      if (escape != null) {
        part(utf8, from, i);
        put(escape);
        from = i + 1;
      }
    }
    part(utf8, from, utf8.length);
    return put('\'');
  }

  private void part(byte[] some, int from, int to) {
    room(to - from);
    System.arraycopy(some, from, bytes, size, to - from);
    size += to - from;
  }

  private void room(int more) {
    if (bytes.length - size < more) {
      bytes =
          Arrays.copyOf(
              bytes, (int) Math.min(Integer.MAX_VALUE - 8L, (bytes.length + (long) more) * 3 / 2));
    }
  }

  /** Bytes that are gathered. */
  public int size() {
    return size;
  }

  /** Writes what was gathered, and is empty then. */
  public void writeTo(OutputStream out) throws IOException {
    out.write(bytes, 0, size);
    size = 0;
  }
}
