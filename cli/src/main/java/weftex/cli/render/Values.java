package weftex.cli.render;

import java.util.LinkedHashMap;
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
   * Two texts cut to a width so that the place where they begin to differ can be seen.
   *
   * @param other the value that it is compared with
   */
  static String shown(Value value, Value other, int width) {
    if (!isText(value) || !isText(other)) {
      return shown(value, width);
    }
    String text = value.display();
    String with = other.display();
    int same = 0;
    while (same < Math.min(text.length(), with.length())
        && text.charAt(same) == with.charAt(same)) {
      same++;
    }
    int lead = width / 3;
    boolean fits = text.length() + 2 <= width && with.length() + 2 <= width;
    if (fits || same <= lead) {
      return shown(value, width);
    }
    int from = same - lead;
    if (Character.isLowSurrogate(text.charAt(Math.min(from, text.length() - 1)))) {
      from--;
    }
    return Page.shortened("…" + text.substring(from) + "\"", width);
  }

  /** The same values with long ones cut, for keeping many changes in memory. */
  static Map<String, Value> cut(Map<String, Value> values) {
    Map<String, Value> cut = new LinkedHashMap<>();
    values.forEach((name, value) -> cut.put(name, cut(value)));
    return cut;
  }

  private static Value cut(Value value) {
    if (value instanceof Value.Text text && text.utf8().length > KEPT * 4) {
      String start = text.display();
      return Value.text(start.substring(0, Math.min(start.length(), KEPT)));
    }
    if (value instanceof Value.Pending) {
      String shown = value.display();
      return Value.text(shown.substring(0, Math.min(shown.length(), KEPT)));
    }
    return value instanceof Value.Binary binary && binary.bytes().length > KEPT
        ? Value.Digest.of(binary.bytes())
        : value;
  }
}
