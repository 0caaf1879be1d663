package weftex.core.reference;

import java.util.List;

/**
 * Keys from the outside in, joined by dots; {@code *} is any key, {@code **} any number of them.
 */
final class PathPattern {
  private final List<String> keys;

  PathPattern(String written) {
    this.keys = written.isEmpty() ? List.of() : List.of(written.split("\\."));
  }

  boolean matches(List<String> path) {
    return matches(0, path, 0);
  }

  private boolean matches(int at, List<String> path, int from) {
    if (at == keys.size()) {
      return from == path.size();
    }
    if (keys.get(at).equals("**")) {
      for (int next = from; next <= path.size(); next++) {
        if (matches(at + 1, path, next)) {
          return true;
        }
      }
      return false;
    }
    return from < path.size()
        && (keys.get(at).equals("*") || keys.get(at).equals(path.get(from)))
        && matches(at + 1, path, from + 1);
  }
}
