package weftex.core.merge;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.value.Place;
import weftex.core.value.Rewriting;
import weftex.core.value.Weaver;

/**
 * Numbers that stand in a value for those that are not known yet, while the value is merged: each
 * stands nowhere else, and gives its place back afterwards.
 */
public final class StandIns {
  /** They have nineteen digits, more than any number that a CMS hands out. */
  private static final BigInteger FIRST = new BigInteger("7310000000000000000");

  private final Map<RowName, BigInteger> numbers = new HashMap<>();

  /** The bytes of a text; empty if the value is none. */
  public Optional<byte[]> bytes(Value value) {
    if (value instanceof Value.Pending pending) {
      return Optional.of(
          pending
              .settled(
                  row ->
                      numbers.computeIfAbsent(
                          row, r -> FIRST.add(BigInteger.valueOf(numbers.size()))))
              .utf8());
    }
    return value instanceof Value.Text text ? Optional.of(text.utf8()) : Optional.empty();
  }

  /** A text as a value, in which unknown numbers are open again. */
  public Value putBack(byte[] bytes) {
    Value text = new Value.Text(bytes);
    if (numbers.isEmpty()) {
      return text;
    }
    Map<String, RowName> rows = new HashMap<>();
    numbers.forEach((row, number) -> rows.put(number.toString(), row));
    Rewriting.Visitor back =
        new Rewriting.Visitor() {
          @Override
          public boolean mayTouch(byte[] bytes) {
            return true;
          }

          @Override
          public Optional<Weaver> text(Place place, byte[] bytes) {
            return putBack(bytes, rows);
          }

          @Override
          public Optional<Weaver> number(Place place, byte[] digits) {
            return putBack(digits, rows);
          }
        };
    return Rewriting.rewrite(bytes, back).map(woven -> woven.toValue(text)).orElse(text);
  }

  private static Optional<Weaver> putBack(byte[] bytes, Map<String, RowName> rows) {
    String text = new String(bytes, StandardCharsets.ISO_8859_1);
    Weaver woven = new Weaver();
    int at = 0;
    boolean found = false;
    int digits = FIRST.toString().length();
    for (int i = 0; i + digits <= text.length(); i++) {
      RowName row = rows.get(text.substring(i, i + digits));
      if (row != null) {
        woven.add(bytes, at, i).add(row);
        at = i + digits;
        i = at - 1;
        found = true;
      }
    }
    return found ? Optional.of(woven.add(bytes, at, bytes.length)) : Optional.empty();
  }
}
