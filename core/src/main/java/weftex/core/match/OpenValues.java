package weftex.core.match;

import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import weftex.core.row.Part;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * Values, among them those with numbers that are not known yet, as a sequence of values that can be
 * packed. A value is led by a number that tells its kind, a list by its length.
 */
final class OpenValues {
  private static final int KNOWN = 0;
  private static final int FRESH = 1;
  private static final int PENDING = 2;

  private static final int LITERAL = 0;
  private static final int NUMBER = 1;
  private static final int SIZED = 2;
  private static final int BASE64 = 3;

  /** A piece inside a JSON string, and how it is written there: bits on top. */
  private static final int QUOTED = 4;

  private static final int SLASHES = 1;
  private static final int UNICODE = 2;

  private OpenValues() {}

  /** Takes values down. */
  static final class Writer {
    private final List<Value> values = new ArrayList<>();

    /** What was taken down; none of it is open. */
    List<Value> written() {
      return values;
    }

    void number(int number) {
      values.add(Value.whole(number));
    }

    void text(String text) {
      values.add(Value.text(text));
    }

    void values(List<Value> some) {
      number(some.size());
      some.forEach(this::value);
    }

    void value(Value value) {
      if (value instanceof Value.Fresh fresh) {
        number(FRESH);
        name(fresh.row());
      } else if (value instanceof Value.Pending pending) {
        number(PENDING);
        parts(pending.parts());
      } else {
        number(KNOWN);
        values.add(value);
      }
    }

    private void name(RowName row) {
      text(row.table());
      values.add(new Value.Whole(row.number()));
    }

    private void parts(List<Part> parts) {
      number(parts.size());
      parts.forEach(this::part);
    }

    private void part(Part part) {
      if (part instanceof Part.Literal literal) {
        number(LITERAL);
        values.add(new Value.Binary(literal.bytes()));
      } else if (part instanceof Part.Number number) {
        number(NUMBER);
        name(number.row());
      } else if (part instanceof Part.Sized sized) {
        number(SIZED);
        parts(sized.parts());
      } else if (part instanceof Part.Base64 base64) {
        number(BASE64);
        parts(base64.parts());
      } else if (part instanceof Part.Quoted quoted) {
        number(QUOTED + (quoted.slashes() ? SLASHES : 0) + (quoted.unicode() ? UNICODE : 0));
        parts(quoted.parts());
      }
    }
  }

  /** Reads what a {@link Writer} took down, in the same order. */
  static final class Reader {
    private final Iterator<Value> values;

    Reader(List<Value> written) {
      this.values = written.iterator();
    }

    int number() {
      return ((Value.Whole) values.next()).number().intValueExact();
    }

    String text() {
      return values.next().display();
    }

    List<Value> values() {
      List<Value> some = new ArrayList<>();
      for (int left = number(); left > 0; left--) {
        some.add(value());
      }
      return some;
    }

    Value value() {
      return switch (number()) {
        case FRESH -> new Value.Fresh(name());
        case PENDING -> new Value.Pending(parts());
        default -> values.next();
      };
    }

    private RowName name() {
      String table = text();
      return new RowName(table, ((Value.Whole) values.next()).number());
    }

    private List<Part> parts() {
      List<Part> parts = new ArrayList<>();
      for (int left = number(); left > 0; left--) {
        parts.add(part());
      }
      return parts;
    }

    private Part part() {
      int kind = number();
      return switch (kind) {
        case LITERAL -> new Part.Literal(((Value.Binary) values.next()).bytes());
        case NUMBER -> new Part.Number(name());
        case SIZED -> new Part.Sized(parts());
        case BASE64 -> new Part.Base64(parts());
        default -> {
          int how = kind - QUOTED;
          yield new Part.Quoted(parts(), (how & SLASHES) != 0, (how & UNICODE) != 0);
        }
      };
    }
  }
}
