package weftex.core.address;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;

/** What stands beside an address, so that a longer one is not taken for it. */
final class Signs {
  private Signs() {}

  static boolean isWord(int b) {
    return b >= 'a' && b <= 'z'
        || b >= 'A' && b <= 'Z'
        || b >= '0' && b <= '9'
        || b == '-'
        || b == '_';
  }

  /** Whether a host or a path segment goes on at {@code at}. */
  static boolean goesOn(byte[] text, int at) {
    if (at >= text.length) {
      return false;
    }
    int b = text[at];
    if (b == '.') {
      // A full stop ends a sentence; a dot within a name is followed by more of it.
      return at + 1 < text.length && (isWord(text[at + 1]) || isLetterBeyondAscii(text, at + 1));
    }
    return isWord(b) || b == '~' || isLetterBeyondAscii(text, at);
  }

  /** Whether a letter in UTF-8 that is not ASCII begins at {@code at}. */
  private static boolean isLetterBeyondAscii(byte[] text, int at) {
    if (text[at] >= 0) {
      return false;
    }
    int length = Math.min(4, text.length - at);
    int sign =
        StandardCharsets.UTF_8
            .decode(ByteBuffer.wrap(text, at, length))
            .codePoints()
            .findFirst()
            .orElse(0);
    return Character.isLetterOrDigit(sign);
  }

  /** Whether a word, a host or a path reaches up to {@code at} from the left. */
  static boolean comesFromLeft(byte[] text, int at) {
    if (at <= 0 || isEncodedSign(text, at)) {
      return false;
    }
    int b = text[at - 1];
    return isWord(b) || b == '.' || b == '+' || b < 0 && isLetterEndingAt(text, at);
  }

  private static boolean isLetterEndingAt(byte[] text, int end) {
    int start = end - 1;
    while (start > 0 && end - start < 4 && (text[start] & 0xC0) == 0x80) {
      start--;
    }
    return isLetterBeyondAscii(text, start);
  }

  /**
   * Whether a sign such as {@code %3D}, {@code %253D} or <code>&#92;u003d</code> ends at {@code
   * end}.
   */
  static boolean isEncodedSign(byte[] text, int end) {
    boolean percent =
        end >= 3
            && Character.digit(text[end - 1], 16) >= 0
            && Character.digit(text[end - 2], 16) >= 0
            && (text[end - 3] == '%' || end >= 5 && Encoding.isAt(text, end - 5, PERCENT_TWICE));
    boolean unicode = end >= 6 && text[end - 6] == '\\' && text[end - 5] == 'u';
    boolean escaped = end >= 2 && text[end - 2] == '\\' && "nrt".indexOf(text[end - 1]) >= 0;
    return percent || unicode || escaped;
  }

  private static final byte[] PERCENT_TWICE = {'%', '2', '5'};
}
