package weftex.cli.page;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.row.Value;

/** Values as a person reads them. */
public final class Values {
  /** Enough for the widest terminal. */
  private static final int KEPT = 2000;

  private Values() {}

  public static String shown(Value value, int width) {
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
  public static String shown(Value value, Collection<Value> others, int width) {
    if (!isText(value)) {
      return shown(value, width);
    }
    String text = cut(value, others).display();
    int same = text.length();
    int longest = text.length();
    for (Value other : others) {
      if (isText(other) && !other.equals(value)) {
        String with = cut(other, with(value, others)).display();
        same = Math.min(same, alike(text, with));
        longest = Math.max(longest, with.length());
      }
    }
    int lead = width / 3;
    boolean alone = same == text.length() && longest == text.length();
    if (alone || longest + 2 <= width || same <= lead) {
      return Page.shortened("\"" + text + "\"", width);
    }
    return Page.shortened("…" + text.substring(start(text, same - lead)) + "\"", width);
  }

  private static List<Value> with(Value value, Collection<Value> others) {
    List<Value> all = new ArrayList<>(others);
    all.add(value);
    return all;
  }

  public static String shown(Value value, Value other, int width) {
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
  public static Map<String, Value> cut(Map<String, Value> values, List<Map<String, Value>> others) {
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

  private static Value cut(Value value, Collection<Value> others) {
    if (value instanceof Value.Binary binary) {
      return binary.bytes().length > KEPT ? Value.Digest.of(binary.bytes()) : value;
    }
    if (!isText(value)) {
      return value;
    }
    // In bytes: as characters three texts of 16 MB would not fit into memory.
    byte[] text = utf8(value);
    int same = 0;
    boolean first = true;
    for (Value other : others) {
      if (isText(other) && !other.equals(value)) {
        int differs = Arrays.mismatch(text, utf8(other));
        same = first ? differs : Math.min(same, differs);
        first = false;
      }
    }
    // All sides begin at one place, however long each of them is.
    int from = same < KEPT ? 0 : characterAt(text, same - KEPT / 2);
    int to = characterAt(text, Math.min(text.length, from + (from == 0 ? KEPT * 4 : KEPT)));
    if (from == 0 && to == text.length) {
      return value;
    }
    String kept = new String(text, from, to - from, StandardCharsets.UTF_8);
    return Value.text(from == 0 ? kept : "…" + kept);
  }

  private static byte[] utf8(Value value) {
    return value instanceof Value.Text text
        ? text.utf8()
        : value.display().getBytes(StandardCharsets.UTF_8);
  }

  /** The last place up to one where a character of a text begins. */
  private static int characterAt(byte[] utf8, int at) {
    int start = at;
    while (start > 0 && start < utf8.length && (utf8[start] & 0xC0) == 0x80) {
      start--;
    }
    return start;
  }
}
