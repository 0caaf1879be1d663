package weftex.core.row;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A name with {@code *} for any signs and {@code ?} for one. Matching takes time in proportion to
 * the name, whatever the pattern: each part between two stars is looked for once, behind the one
 * before it, and never again.
 */
public final class Glob {
  private final String start;
  private final byte[] startBytes;

  /** The parts between stars. */
  private final List<String> parts;

  private Glob(List<String> parts) {
    this.parts = List.copyOf(parts);
    this.start = parts.get(0);
    this.startBytes = start.getBytes(StandardCharsets.UTF_8);
  }

  /** Reads the written form. */
  public static Glob of(String written) {
    List<String> parts = new ArrayList<>();
    int from = 0;
    for (int star = written.indexOf('*'); star >= 0; star = written.indexOf('*', from)) {
      parts.add(written.substring(from, star));
      from = star + 1;
    }
    parts.add(written.substring(from));
    return new Glob(parts);
  }

  /** Whether a whole name matches. */
  public boolean matches(String name) {
    String last = parts.get(parts.size() - 1);
    if (parts.size() == 1) {
      return name.length() == start.length() && isAt(name, 0, start);
    }
    int end = name.length() - last.length();
    if (end < start.length() || !isAt(name, 0, start) || !isAt(name, end, last)) {
      return false;
    }
    int at = start.length();
    for (String part : parts.subList(1, parts.size() - 1)) {
      while (at + part.length() <= end && !isAt(name, at, part)) {
        at++;
      }
      at += part.length();
      if (at > end) {
        return false;
      }
    }
    return true;
  }

  private static boolean isAt(String name, int at, String part) {
    if (at + part.length() > name.length()) {
      return false;
    }
    for (int i = 0; i < part.length(); i++) {
      if (part.charAt(i) != '?' && part.charAt(i) != name.charAt(at + i)) {
        return false;
      }
    }
    return true;
  }

  /** Whether what a person sees of a value matches as a whole. */
  public boolean matches(Value value) {
    boolean open = parts.size() == 2 && parts.get(1).isEmpty();
    boolean simple = (open || parts.size() == 1) && start.indexOf('?') < 0;
    if (!simple || !(value instanceof Value.Text text)) {
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
