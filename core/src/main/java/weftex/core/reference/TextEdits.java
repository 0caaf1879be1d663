package weftex.core.reference;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.value.Weaver;

/** Numbers to be replaced in a text, and the text with them replaced. */
final class TextEdits {

  private static final Pattern NUMBER = Pattern.compile("\\d+");

  private final String text;
  private final NumberPlaces.Numbers numbers;
  private final List<Edit> edits = new ArrayList<>();

  /**
   * Of one text.
   *
   * @param text byte for byte, as ISO 8859-1
   */
  TextEdits(String text, NumberPlaces.Numbers numbers) {
    this.text = text;
    this.numbers = numbers;
  }

  private record Edit(int from, int to, Weaver by) {}

  boolean isEmpty() {
    return edits.isEmpty();
  }

  /** Replaces what stands between two places. */
  void replace(int from, int to, Weaver by) {
    edits.add(new Edit(from, to, by));
  }

  /** Replaces the numbers of a list, between two places, where they are not replaced yet. */
  void list(int from, int to, String table, String unset) {
    Matcher number = NUMBER.matcher(text).region(from, to);
    while (number.find()) {
      int start = number.start();
      int end = number.end();
      boolean none = number.group().equals(unset) || number.group().length() > 20;
      boolean free = edits.stream().noneMatch(e -> start < e.to() && e.from() < end);
      if (!none && free) {
        numbers
            .of(table, new BigInteger(number.group()))
            .ifPresent(by -> edits.add(new Edit(start, end, by)));
      }
    }
  }

  Weaver woven(byte[] bytes) {
    edits.sort(Comparator.comparingInt(Edit::from));
    Weaver woven = new Weaver();
    int at = 0;
    for (Edit edit : edits) {
      if (edit.from() >= at) {
        woven.add(bytes, at, edit.from()).add(edit.by());
        at = edit.to();
      }
    }
    return woven.add(bytes, at, bytes.length);
  }
}
