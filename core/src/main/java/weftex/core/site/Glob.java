package weftex.core.site;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.regex.Pattern;
import weftex.core.row.Value;

/** A name with {@code *} for any signs and {@code ?} for one. */
public final class Glob {
  private final String start;
  private final byte[] startBytes;
  private final boolean open;
  private final Pattern pattern;

  private Glob(String start, boolean open, Pattern pattern) {
    this.start = start;
    this.startBytes = start.getBytes(StandardCharsets.UTF_8);
    this.open = open;
    this.pattern = pattern;
  }

  /** Reads the written form. */
  public static Glob of(String written) {
    int star = written.indexOf('*');
    boolean plain = written.indexOf('?') < 0;
    if (star < 0 && plain) {
      return new Glob(written, false, null);
    }
    if (plain && star == written.length() - 1) {
      return new Glob(written.substring(0, star), true, null);
    }
    StringBuilder regex = new StringBuilder("(?s)");
    for (char c : written.toCharArray()) {
      regex.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf(c)));
    }
    return new Glob("", true, Pattern.compile(regex.toString()));
  }

  /** Whether a whole name matches. */
  public boolean matches(String name) {
    if (pattern != null) {
      return pattern.matcher(name).matches();
    }
    return open ? name.startsWith(start) : name.equals(start);
  }

  /** Whether what a person sees of a value matches as a whole. */
  public boolean matches(Value value) {
    if (pattern != null || !(value instanceof Value.Text text)) {
      return matches(value.display());
    }
    byte[] bytes = text.utf8();
    int length = startBytes.length;
    return (open ? bytes.length >= length : bytes.length == length)
        && Arrays.equals(bytes, 0, length, startBytes, 0, length);
  }

  /** Whether a written pattern matches a whole name. */
  public static boolean matches(String written, String name) {
    return of(written).matches(name);
  }
}
