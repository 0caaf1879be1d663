package weftex.core.reference;

import java.util.List;

/**
 * Keys from the outside in, joined by dots; {@code *} is any key, {@code **} any number of them.
 */
public final class PathPattern {
  private final List<String> keys;

  public PathPattern(String written) {
    this.keys = written.isEmpty() ? List.of() : List.of(written.split("\\."));
  }

  /** The key at its end; empty if that is any key, or the value as a whole. */
  String lastKey() {
    String last = keys.isEmpty() ? "" : keys.get(keys.size() - 1);
    return last.startsWith("*") ? "" : last;
  }

  /** Whether the keys from the outside in lead there. */
  public boolean matches(List<String> path) {
    return mayEndLike(path) && matches(0, path, 0);
  }

  /** Most places have another name; of many patterns few are looked at closely. */
  private boolean mayEndLike(List<String> path) {
    int from = path.size();
    for (int at = keys.size() - 1; at >= 0 && !keys.get(at).equals("**"); at--) {
      if (--from < 0 || !keys.get(at).equals("*") && !keys.get(at).equals(path.get(from))) {
        return false;
      }
    }
    return true;
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
