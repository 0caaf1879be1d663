package weftex.core.row;

import java.nio.charset.StandardCharsets;

/** Writes a text as the inside of a JSON string. */
public final class JsonQuoting {
  private JsonQuoting() {}

  /**
   * Writes.
   *
   * @param utf8 the text
   * @param slashes whether a slash is written {@code \/}
   * @param unicode whether what is not ASCII is written <code>&#92;uXXXX</code>
   */
  public static byte[] quote(byte[] utf8, boolean slashes, boolean unicode) {
    StringBuilder out = new StringBuilder(utf8.length + 16);
    String content = new String(utf8, StandardCharsets.UTF_8);
    for (int i = 0; i < content.length(); i++) {
      char c = content.charAt(i);
      switch (c) {
        case '"' -> out.append("\\\"");
        case '\\' -> out.append("\\\\");
        case '/' -> out.append(slashes ? "\\/" : "/");
        case '\b' -> out.append("\\b");
        case '\f' -> out.append("\\f");
        case '\n' -> out.append("\\n");
        case '\r' -> out.append("\\r");
        case '\t' -> out.append("\\t");
        default -> {
          if (c < 0x20 || c > 0x7E && unicode) {
            out.append(String.format("\\u%04x", (int) c));
          } else {
            out.append(c);
          }
        }
      }
    }
    return out.toString().getBytes(StandardCharsets.UTF_8);
  }
}
