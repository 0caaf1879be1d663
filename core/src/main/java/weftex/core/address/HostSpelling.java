package weftex.core.address;

import java.net.IDN;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/** How the letters of an international host name are written. */
enum HostSpelling {
  ASCII,
  UNICODE,
  JSON_ESCAPED,
  PERCENT;

  /** The spellings in which a host can stand; one for a host that is ASCII in any case. */
  static List<HostSpelling> of(String host) {
    List<HostSpelling> spellings = new ArrayList<>(List.of(ASCII));
    if (!IDN.toUnicode(host, IDN.ALLOW_UNASSIGNED).equals(host)) {
      spellings.addAll(List.of(UNICODE, JSON_ESCAPED, PERCENT));
    }
    return spellings;
  }

  /**
   * Writes a host.
   *
   * @param host in its ASCII spelling
   */
  byte[] spell(String host) {
    String letters = this == ASCII ? host : IDN.toUnicode(host, IDN.ALLOW_UNASSIGNED);
    return switch (this) {
      case ASCII, UNICODE -> letters.getBytes(StandardCharsets.UTF_8);
      case JSON_ESCAPED -> escaped(letters).getBytes(StandardCharsets.US_ASCII);
      case PERCENT ->
          lowerHex(URLEncoder.encode(letters, StandardCharsets.UTF_8))
              .getBytes(StandardCharsets.US_ASCII);
    };
  }

  private static String escaped(String letters) {
    StringBuilder out = new StringBuilder();
    for (char c : letters.toCharArray()) {
      out.append(c < 0x80 ? String.valueOf(c) : String.format("\\u%04x", (int) c));
    }
    return out.toString();
  }

  /** A needle that matches in any case is written in lower case. */
  private static String lowerHex(String encoded) {
    return encoded.toLowerCase(java.util.Locale.ROOT);
  }
}
