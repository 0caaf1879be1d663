package weftex.core.address;

import java.net.IDN;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The base address of a copy.
 *
 * @param scheme {@code http} or {@code https}
 * @param host in lower case and in the ASCII spelling of an international name
 * @param port 0 if the address names none
 * @param path without a slash at its end: empty, or {@code /shop}
 */
public record Address(String scheme, String host, int port, String path) {
  private static final Pattern WRITTEN =
      Pattern.compile("(?i)(https?)://([^/:@?#\\s]+)(?::(\\d{1,5}))?((?:/[^/?#\\s]+)*)/*");

  /**
   * Reads an address such as {@code https://staging.skerrow.example:8443/shop}.
   *
   * @throws IllegalArgumentException with a sentence, if it is none
   */
  public static Address parse(String text) {
    Matcher written = WRITTEN.matcher(text.strip());
    if (!written.matches()) {
      throw new IllegalArgumentException(
          "'"
              + text
              + "' is no base address: write http:// or https://, a host, and a path if any");
    }
    String host;
    try {
      host = IDN.toASCII(written.group(2), IDN.ALLOW_UNASSIGNED).toLowerCase(Locale.ROOT);
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException("'" + written.group(2) + "' is no host name", e);
    }
    int port = written.group(3) == null ? 0 : Integer.parseInt(written.group(3));
    if (port > 65535) {
      throw new IllegalArgumentException("port " + port + " is not between 1 and 65535");
    }
    return new Address(written.group(1).toLowerCase(Locale.ROOT), host, port, written.group(4));
  }

  /** The host in letters, as a reader sees it. */
  String unicodeHost() {
    return IDN.toUnicode(host, IDN.ALLOW_UNASSIGNED);
  }

  @Override
  public String toString() {
    return scheme + "://" + host + (port == 0 ? "" : ":" + port) + path;
  }
}
