package weftex.core.value;

import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;

/** Whether bytes look like PHP's serialised values. */
final class PhpLook {

  private static final int CLAIM_LOOKED_AT = 200;

  /** What no text but a serialised array or object begins with, or a string with its end. */
  private static final Pattern CLAIM =
      Pattern.compile(
          "(?s)a:\\d+:\\{(?:i:-?\\d+;|s:\\d+:\"|\\}).*|[OC]:\\d+:\"[\\w\\\\]+\":\\d+:\\{.*|s:\\d+:\"[^\"]*\";");

  private PhpLook() {}

  /** Whether bytes begin like a serialised value; most texts don't. */
  static boolean looksLike(byte[] bytes) {
    if (bytes.length < 2) {
      return false;
    }
    return switch (bytes[0]) {
      case 'N' -> bytes[1] == ';' && bytes.length == 2;
      case 'b', 'i', 'd', 's', 'S', 'a', 'O', 'C', 'E' ->
          bytes.length >= 4 && bytes[1] == ':' && isEnd(bytes[bytes.length - 1]);
      default -> false;
    };
  }

  /** Whether bytes claim to be serialised by their first signs. */
  static boolean claims(byte[] bytes) {
    if (bytes.length < 6 || "aOCs".indexOf(bytes[0]) < 0 || bytes[1] != ':') {
      return false;
    }
    int looked = bytes[0] == 's' ? bytes.length : Math.min(bytes.length, CLAIM_LOOKED_AT);
    return CLAIM.matcher(new String(bytes, 0, looked, StandardCharsets.ISO_8859_1)).matches();
  }

  static boolean isEnd(byte last) {
    return last == ';' || last == '}';
  }
}
