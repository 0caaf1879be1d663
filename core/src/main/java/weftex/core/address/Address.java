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

  /** Letters that IDNA 2008 keeps and IDNA 2003, which is what {@link IDN} knows, maps or drops. */
  private static final Pattern DEVIATING = Pattern.compile("[ßẞς\\x{200C}\\x{200D}]");

  private static final String WWW = "www.";

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
    if (DEVIATING.matcher(written.group(2)).find()) {
      throw new IllegalArgumentException(
          "'"
              + written.group(2)
              + "' has letters that older programs write as others, and so as another host: write the"
              + " host in its xn-- form");
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

  /** The same with {@code www.} before the host, or without if it has it. */
  public Address otherWww() {
    String other = host.startsWith(WWW) ? host.substring(WWW.length()) : WWW + host;
    return new Address(scheme, other, port, path);
  }

  @Override
  public String toString() {
    return scheme + "://" + host + (port == 0 ? "" : ":" + port) + path;
  }
}
