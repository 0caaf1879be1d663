package weftex.core.address;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;

/**
 * A text that stands for a copy: a path of its file system, or an extra pair. Found however its
 * slashes and colons are written, and never as a part of a longer name.
 */
final class TextRule implements Rule {
  private final String from;
  private final String to;
  private final Form form;
  private final int anchorAt;
  private final Needle needle;

  TextRule(String from, String to, Form form) {
    this.from = from;
    this.to = to;
    this.form = form;
    int best = 0;
    int length = 0;
    int start = 0;
    for (int i = 0; i <= from.length(); i++) {
      if (i == from.length() || from.charAt(i) == '/' || from.charAt(i) == ':') {
        if (i - start > length) {
          best = start;
          length = i - start;
        }
        start = i + 1;
      }
    }
    if (length == 0) {
      throw new IllegalArgumentException("'" + from + "' names nothing that could be looked for");
    }
    this.anchorAt = best;
    this.needle =
        new Needle(from.substring(best, best + length).getBytes(StandardCharsets.UTF_8), false);
  }

  @Override
  public Needle needle() {
    return needle;
  }

  @Override
  public Optional<Hit> around(byte[] text, int at) {
    for (Encoding encoding : Encoding.values()) {
      Optional<Hit> hit = around(text, at, encoding);
      if (hit.isPresent()) {
        return hit;
      }
      if (!hasSigns()) {
        break;
      }
    }
    return Optional.empty();
  }

  private boolean hasSigns() {
    return from.indexOf('/') >= 0 || from.indexOf(':') >= 0;
  }

  private Optional<Hit> around(byte[] text, int at, Encoding encoding) {
    byte[] slash = null;
    byte[] colon = null;
    int start = at;
    for (int i = anchorAt - 1; i >= 0 && start >= 0; i--) {
      char c = from.charAt(i);
      byte[] sign;
      if (c == '/') {
        sign = encoding.slashBefore(text, start);
        slash = sign;
      } else if (c == ':') {
        sign = encoding.colonBefore(text, start);
        colon = sign;
      } else {
        sign = utf8(c);
        sign = start >= sign.length && isExactly(text, start - sign.length, sign) ? sign : EMPTY;
      }
      if (sign.length == 0) {
        return Optional.empty();
      }
      start -= sign.length;
    }
    int end = at + needle.length();
    int anchorEnd = anchorAt + new String(needleBytes(text, at), StandardCharsets.UTF_8).length();
    for (int i = anchorEnd; i < from.length(); i++) {
      char c = from.charAt(i);
      byte[] sign;
      if (c == '/') {
        sign = slash != null ? slash : encoding.slashAt(text, end);
        slash = sign;
      } else if (c == ':') {
        sign = colon != null ? colon : encoding.colonAt(text, end);
        colon = sign;
      } else {
        sign = utf8(c);
      }
      boolean fits =
          sign.length > 0
              && (c == '/' || c == ':'
                  ? Encoding.isAt(text, end, sign)
                  : isExactly(text, end, sign));
      if (!fits) {
        return Optional.empty();
      }
      end += sign.length;
    }
    return hit(text, slash, colon, start, end);
  }

  private Optional<Hit> hit(byte[] text, byte[] slash, byte[] colon, int start, int end) {
    boolean wordBefore = Signs.isWord(from.charAt(0)) || from.charAt(0) == '/';
    boolean wordAfter = Signs.isWord(from.charAt(from.length() - 1));
    if (wordBefore && Signs.comesFromLeft(text, start) || wordAfter && Signs.goesOn(text, end)) {
      return Optional.empty();
    }
    byte[] like = slash != null ? slash : EMPTY;
    return Optional.of(new Hit(start, end, form, written(like, colon, text, start, end)));
  }

  private static final byte[] EMPTY = new byte[0];

  private byte[] needleBytes(byte[] text, int at) {
    return Arrays.copyOfRange(text, at, at + needle.length());
  }

  /** The other text, with slashes and colons as they are written where the first stood. */
  private byte[] written(byte[] slash, byte[] colon, byte[] text, int start, int end) {
    String sign = slash.length == 0 ? "/" : found(slash, text, start, end);
    String dots = colon == null || colon.length == 0 ? ":" : found(colon, text, start, end);
    StringBuilder out = new StringBuilder();
    for (char c : to.toCharArray()) {
      out.append(c == '/' ? sign : c == ':' ? dots : String.valueOf(c));
    }
    return out.toString().getBytes(StandardCharsets.UTF_8);
  }

  /** A sign in the very case in which it stands in the text. */
  private static String found(byte[] sign, byte[] text, int start, int end) {
    for (int i = start; i + sign.length <= end; i++) {
      if (Encoding.isAt(text, i, sign)) {
        return new String(text, i, sign.length, StandardCharsets.US_ASCII);
      }
    }
    return new String(sign, StandardCharsets.US_ASCII);
  }

  private static boolean isExactly(byte[] text, int from, byte[] sign) {
    return from >= 0
        && from + sign.length <= text.length
        && Arrays.equals(text, from, from + sign.length, sign, 0, sign.length);
  }

  private static byte[] utf8(char c) {
    return String.valueOf(c).getBytes(StandardCharsets.UTF_8);
  }
}
