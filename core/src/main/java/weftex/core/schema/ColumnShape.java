package weftex.core.schema;

import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import weftex.core.row.Value;

/**
 * A column that is to be made.
 *
 * @param type the type's words and lengths, such as {@code decimal(8,2) unsigned}
 * @param values what a column of type {@code enum} or {@code set} may hold; else empty
 * @param standard what it holds where nothing is said
 * @param counts whether the database numbers its rows by it
 * @param touched whether an update of a row sets it to the time; with the digits of fractions
 * @param collated of a text column, where it is not as the table is
 * @param isJson whether the database checks that it holds JSON
 */
public record ColumnShape(
    String name,
    String type,
    List<String> values,
    boolean nullable,
    Optional<Standard> standard,
    boolean counts,
    Optional<Integer> touched,
    Collated collated,
    String comment,
    boolean isJson) {

  /** Words, at most one pair of lengths, words. */
  private static final Pattern TYPE =
      Pattern.compile(
          "[A-Za-z][A-Za-z0-9_]*( [A-Za-z][A-Za-z0-9_]*)*"
              + "(\\(\\d{1,5}(,\\d{1,5})?\\))?( [A-Za-z]+)*|");

  public ColumnShape {
    Shapes.name(name);
    values = List.copyOf(values);
    if (!TYPE.matcher(type).matches()) {
      throw new IllegalArgumentException("'" + type + "' is no type of a column");
    }
    touched.ifPresent(Standard::checkFraction);
  }

  /** What a column holds where nothing is said. */
  public sealed interface Standard {

    /** A value, NULL among them. */
    record Literal(Value value) implements Standard {
      public Literal {
        if (value instanceof Value.Fresh
            || value instanceof Value.Pending
            || value instanceof Value.Digest) {
          throw new IllegalArgumentException("a column's default must be a value");
        }
      }
    }

    /**
     * The time of writing.
     *
     * @param fraction digits of fractions of a second
     */
    record Now(int fraction) implements Standard {
      public Now {
        checkFraction(fraction);
      }
    }

    private static void checkFraction(int fraction) {
      if (fraction < 0 || fraction > 6) {
        throw new IllegalArgumentException("a time has 0 to 6 digits of fractions");
      }
    }
  }

  /** The column in a line, for a person. */
  public String words() {
    StringBuilder words = new StringBuilder(name).append(' ').append(type);
    if (!values.isEmpty()) {
      words.append(" (").append(String.join(", ", values)).append(')');
    }
    words.append(nullable ? "" : ", not null");
    standard.ifPresent(
        said ->
            words
                .append(", default ")
                .append(
                    said instanceof Standard.Literal literal
                        ? literal.value().display()
                        : "the time"));
    words.append(counts ? ", counts by itself" : "");
    words.append(touched.isPresent() ? ", set to the time by updates" : "");
    collated.collation().ifPresent(said -> words.append(", ").append(said));
    words.append(isJson ? ", JSON" : "");
    return words.toString();
  }
}
