package weftex.core.reference;

import java.math.BigInteger;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.value.Weaver;

/** Numbers to be replaced in a text, and the text with them replaced. */
final class TextEdits {

  private static final Pattern NUMBER = Pattern.compile("\\d+");

  private TextEdits() {}

  record Edit(int from, int to, Weaver by) {}

  static void list(
      String text,
      int from,
      int to,
      String table,
      String unset,
      NumberPlaces.Numbers numbers,
      List<Edit> edits) {
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

  static Weaver woven(byte[] text, List<Edit> edits) {
    edits.sort(Comparator.comparingInt(Edit::from));
    Weaver woven = new Weaver();
    int at = 0;
    for (Edit edit : edits) {
      if (edit.from() >= at) {
        woven.add(text, at, edit.from()).add(edit.by());
        at = edit.to();
      }
    }
    return woven.add(text, at, text.length);
  }
}
