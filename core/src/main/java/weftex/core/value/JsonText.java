package weftex.core.value;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import weftex.core.row.JsonQuoting;

/**
 * The inside of a JSON string, and how it is spelt.
 *
 * @param text what it stands for, as UTF-8
 * @param slashes whether it writes a slash {@code \/}
 * @param unicode whether it writes what is not ASCII <code>&#92;uXXXX</code>
 * @param exact whether {@link #quote} gives back the very bytes that were read
 */
record JsonText(byte[] text, boolean slashes, boolean unicode, boolean exact) {

  static JsonText read(byte[] bytes, int from, int to) {
    byte[] text = decode(bytes, from, to);
    boolean escapedSlash = false;
    boolean bareSlash = false;
    boolean escapedLetter = false;
    boolean bareLetter = false;
    for (int i = from; i < to; i++) {
      if (bytes[i] == '\\') {
        i++;
        escapedSlash |= bytes[i] == '/';
        escapedLetter |= bytes[i] == 'u';
      } else {
        bareSlash |= bytes[i] == '/';
        bareLetter |= bytes[i] < 0;
      }
    }
    boolean slashes = escapedSlash || !bareSlash;
    boolean unicode = escapedLetter || !bareLetter;
    byte[] again = JsonQuoting.quote(text, slashes, unicode);
    boolean exact = Arrays.equals(bytes, from, to, again, 0, again.length);
    return new JsonText(text, slashes, unicode, exact);
  }

  byte[] quote(byte[] other) {
    return JsonQuoting.quote(other, slashes, unicode);
  }

  private static byte[] decode(byte[] bytes, int from, int to) {
    ByteArrayOutputStream out = new ByteArrayOutputStream(to - from);
    StringBuilder units = new StringBuilder();
    int i = from;
    while (i < to) {
      boolean unicode = bytes[i] == '\\' && bytes[i + 1] == 'u';
      if (!unicode && units.length() > 0) {
        out.writeBytes(units.toString().getBytes(StandardCharsets.UTF_8));
        units.setLength(0);
      }
      if (bytes[i] != '\\') {
        out.write(bytes[i++]);
      } else if (unicode) {
        String hex = new String(bytes, i + 2, 4, StandardCharsets.US_ASCII);
        units.append((char) Integer.parseInt(hex, 16));
        i += 6;
      } else {
        out.write(plain(bytes[i + 1]));
        i += 2;
      }
    }
    out.writeBytes(units.toString().getBytes(StandardCharsets.UTF_8));
    return out.toByteArray();
  }

  private static int plain(byte escape) {
    return switch (escape) {
      case 'b' -> '\b';
      case 'f' -> '\f';
      case 'n' -> '\n';
      case 'r' -> '\r';
      case 't' -> '\t';
      default -> escape;
    };
  }
}
