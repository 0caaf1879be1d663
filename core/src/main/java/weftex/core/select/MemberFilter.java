package weftex.core.select;

import java.util.ArrayList;
import java.util.List;
import weftex.core.row.Glob;
import weftex.core.value.Grafting;

/**
 * Which members of structured values are chosen. A pattern is keys from the outside in, joined by
 * dots, each with {@code *} and {@code ?}; it means the member and all below it.
 *
 * @param members empty for all
 * @param without those that are left out
 */
public record MemberFilter(List<String> members, List<String> without) implements Grafting.Chooser {
  /** Whole values. */
  public static final MemberFilter ALL = new MemberFilter(List.of(), List.of());

  public MemberFilter {
    members = List.copyOf(members);
    without = List.copyOf(without);
  }

  /** These members alone. */
  public static MemberFilter ofPaths(List<List<String>> paths) {
    return new MemberFilter(
        paths.stream()
            .map(path -> String.join(".", path.stream().map(MemberFilter::quoted).toList()))
            .toList(),
        List.of());
  }

  private static String quoted(String key) {
    return key.replace(".", "\\.");
  }

  /** Whether nothing is said. */
  public boolean isAll() {
    return equals(ALL);
  }

  /** Whether some members are asked for, rather than all but some. */
  public boolean picks() {
    return !members.isEmpty();
  }

  @Override
  public Grafting.Part of(List<String> path) {
    boolean in = members.isEmpty() || anyHolds(members, path);
    if (anyHolds(without, path) || !in && !anyMayBeBelow(members, path)) {
      return Grafting.Part.NONE;
    }
    return in && !anyMayBeBelow(without, path) ? Grafting.Part.ALL : Grafting.Part.SOME;
  }

  /** Whether a pattern means a place, or one that it is below of. */
  private static boolean anyHolds(List<String> patterns, List<String> path) {
    return patterns.stream()
        .map(MemberFilter::keys)
        .anyMatch(keys -> keys.size() <= path.size() && matches(keys, path, keys.size()));
  }

  private static boolean anyMayBeBelow(List<String> patterns, List<String> path) {
    return patterns.stream()
        .map(MemberFilter::keys)
        .anyMatch(keys -> keys.size() > path.size() && matches(keys, path, path.size()));
  }

  private static boolean matches(List<String> keys, List<String> path, int first) {
    for (int i = 0; i < first; i++) {
      if (!Glob.matches(keys.get(i), path.get(i))) {
        return false;
      }
    }
    return true;
  }

  /** A dot that belongs to a key has a backslash before it. */
  private static List<String> keys(String pattern) {
    List<String> keys = new ArrayList<>();
    for (String key : pattern.split("(?<!\\\\)\\.", -1)) {
      keys.add(key.replace("\\.", "."));
    }
    return keys;
  }
}
