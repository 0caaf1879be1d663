package weftex.cli.render;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.row.Value;

/** Values as a person reads them. */
final class Values {
  /** Enough for the widest terminal. */
  private static final int KEPT = 2000;

  private Values() {}

  static String shown(Value value, int width) {
    String text = isText(value) ? "\"" + value.display() + "\"" : value.display();
    return Page.shortened(text, width);
  }

  private static boolean isText(Value value) {
    return value instanceof Value.Text || value instanceof Value.Pending;
  }

  /**
   * A text cut to a width so that the place where it begins to differ from others can be seen.
   *
   * @param others the values that it is compared with; those that are no texts do not count
   */
  static String shown(Value value, Collection<Value> others, int width) {
    if (!isText(value)) {
      return shown(value, width);
    }
    String text = value.display();
    int same = text.length();
    int longest = text.length();
    for (Value other : others) {
      if (isText(other) && !other.equals(value)) {
        String with = other.display();
        same = Math.min(same, alike(text, with));
        longest = Math.max(longest, with.length());
      }
    }
    int lead = width / 3;
    boolean alone = same == text.length() && longest == text.length();
    if (alone || longest + 2 <= width || same <= lead) {
      return shown(value, width);
    }
    return Page.shortened("…" + text.substring(start(text, same - lead)) + "\"", width);
  }

  static String shown(Value value, Value other, int width) {
    return shown(value, List.of(other), width);
  }

  /** How many characters two texts have in common at their beginnings. */
  private static int alike(String one, String other) {
    int same = 0;
    while (same < Math.min(one.length(), other.length())
        && one.charAt(same) == other.charAt(same)) {
      same++;
    }
    return same;
  }

  /** A place where a character begins. */
  private static int start(String text, int at) {
    return at > 0 && at < text.length() && Character.isLowSurrogate(text.charAt(at)) ? at - 1 : at;
  }

  /**
   * The same values with long ones cut, for keeping many changes in memory.
   *
   * @param others values of the same columns, of which the places where they differ are kept
   */
  static Map<String, Value> cut(Map<String, Value> values, List<Map<String, Value>> others) {
    Map<String, Value> cut = new LinkedHashMap<>();
    values.forEach(
        (name, value) ->
            cut.put(
                name,
                cut(
                    value,
                    others.stream()
                        .map(other -> other.get(name))
                        .filter(other -> other != null && !other.equals(value))
                        .toList())));
    return cut;
  }

  private static Value cut(Value value, List<Value> others) {
    if (value instanceof Value.Binary binary) {
      return binary.bytes().length > KEPT ? Value.Digest.of(binary.bytes()) : value;
    }
    boolean isLong =
        value instanceof Value.Pending
            || value instanceof Value.Text text && text.utf8().length > KEPT * 4;
    if (!isLong) {
      return value;
    }
    String text = value.display();
    int same =
        others.stream()
            .filter(Values::isText)
            .mapToInt(other -> alike(text, other.display()))
            .min()
            .orElse(0);
    int from = same < KEPT / 2 ? 0 : start(text, same - KEPT / 2);
    String kept = text.substring(from, start(text, Math.min(text.length(), from + KEPT)));
    return Value.text(from == 0 ? kept : "…" + kept);
  }
}
