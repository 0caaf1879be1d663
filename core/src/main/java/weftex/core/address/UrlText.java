package weftex.core.address;

import java.nio.charset.StandardCharsets;

/** Hosts and places as addresses write them. */
final class UrlText {

  private UrlText() {}

  static byte[] upperHex(byte[] spelt) {
    for (int i = 0; i + 2 < spelt.length; i++) {
      if (spelt[i] == '%') {
        spelt[i + 1] = (byte) Character.toUpperCase(spelt[i + 1]);
        spelt[i + 2] = (byte) Character.toUpperCase(spelt[i + 2]);
      }
    }
    return spelt;
  }

  static String[] segments(String path) {
    return path.isEmpty() ? new String[0] : path.substring(1).split("/");
  }

  static byte[] ascii(String text) {
    return text.getBytes(StandardCharsets.US_ASCII);
  }
}
