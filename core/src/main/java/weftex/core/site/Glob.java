package weftex.core.site;

import java.util.regex.Pattern;

/** Names with {@code *} for any signs and {@code ?} for one. */
public final class Glob {
  private Glob() {}

  /** Whether a pattern matches a whole name. */
  public static boolean matches(String pattern, String name) {
    if (pattern.indexOf('*') < 0 && pattern.indexOf('?') < 0) {
      return pattern.equals(name);
    }
    StringBuilder regex = new StringBuilder("(?s)");
    for (char c : pattern.toCharArray()) {
      regex.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf(c)));
    }
    return name.matches(regex.toString());
  }
}
