package weftex.store.copy;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;

/**
 * The digest of a row, as a server can compute it too: a sum of each unsigned number, modulo 2^32 -
 * 5, times a prime factor of its own, and of one check of everything else times another. That check
 * is a CRC-32C which begins with the key and runs through what the server writes of one column
 * after the other; one is added to it between columns, so that text can't move from one to the next
 * unseen. An edit of a row is overlooked by a chance of about 2^-32.
 *
 * <p>A sum, unlike a check alone, is not linear over exclusive or: equal edits of two rows do not
 * cancel each other in the digest of their range. No sum exceeds 2^63, since a server would refuse
 * it: 2^32 times factors below 2^20 for up to a thousand columns, and 2^32 times one below 2^29.
 *
 * <p>If a server should write a value in another way than this class, the range merely seems to
 * differ and is read.
 */
public final class RowDigest {
  private static final long MODULUS = 4294967291L;
  private static final long NULL = 7919;
  private static final long CHECK_FACTOR = 536870909;

  /** Goes into the check in place of NULL; as a value it would be an odd one. */
  private static final String NULL_TEXT = "~weftex:NULL~";

  private static final byte[] NULL_BYTES = NULL_TEXT.getBytes(StandardCharsets.US_ASCII);
  private static final int MOST_COLUMNS = 1000;

  /** Factors are primes from here on. */
  private static final int FIRST_FACTOR = 900_001;

  private final int[] factors;
  private final boolean[] byNumber;
  private final SeededCrc32c check = new SeededCrc32c();

  public RowDigest(Table table) {
    this.factors = factors(table.columns().size());
    this.byNumber = new boolean[factors.length];
    for (int i = 0; i < factors.length; i++) {
      byNumber[i] = isUnsigned(table.columns().get(i));
    }
  }

  /**
   * Whether rows of a layout can be digested: a single whole number orders them, and no value is a
   * float or bits, which a server writes in its own way.
   */
  public static boolean isPossible(Layout layout) {
    return layout.table().hasKey()
        && layout.isByNumber()
        && layout.table().columns().size() <= MOST_COLUMNS
        && layout.table().columns().stream().allMatch(RowDigest::isPossible);
  }

  private static boolean isPossible(Column column) {
    return switch (column.kind()) {
      case WHOLE, DECIMAL, TEXT -> true;
      case BINARY -> column.type().contains("blob") || column.type().contains("binary");
      case FLOATING, ANY -> false;
    };
  }

  private static boolean isUnsigned(Column column) {
    return column.kind() == ValueKind.WHOLE && column.type().contains("unsigned");
  }

  private static int[] factors(int count) {
    int[] factors = new int[count];
    int candidate = FIRST_FACTOR;
    for (int i = 0; i < count; candidate += 2) {
      if (isPrime(candidate)) {
        factors[i++] = candidate;
      }
    }
    return factors;
  }

  private static boolean isPrime(int odd) {
    for (int divisor = 3; divisor * divisor <= odd; divisor += 2) {
      if (odd % divisor == 0) {
        return false;
      }
    }
    return true;
  }

  /** The digest of a row. */
  public long of(Row row) {
    RowPacking.Cursor cursor = row.cursor();
    long sum = 0;
    long crc = SortKey.toWhole(row.key());
    boolean checked = false;
    for (int i = 0; i < factors.length; i++) {
      Value value = cursor.next();
      if (byNumber[i] && value.isNull()) {
        sum += NULL * factors[i];
      } else if (byNumber[i] && value instanceof Value.Whole whole) {
        sum += Long.remainderUnsigned(whole.number().longValue(), MODULUS) * factors[i];
      } else {
        crc = check.of(checked ? crc + 1 : crc, value.isNull() ? NULL_BYTES : bytes(value));
        checked = true;
      }
    }
    return checked ? sum + crc * CHECK_FACTOR : sum;
  }

  private static byte[] bytes(Value value) {
    if (value instanceof Value.Text text) {
      return text.utf8();
    }
    return value instanceof Value.Binary binary
        ? binary.bytes()
        : value.display().getBytes(StandardCharsets.US_ASCII);
  }

  /**
   * The same digest as an expression of a server that has CRC32C with a beginning.
   *
   * @param dialect how columns are read
   */
  static Optional<String> expression(Table table, Dialect dialect) {
    int[] factors = factors(table.columns().size());
    List<String> terms = new ArrayList<>();
    String check = dialect.quote(table.columns().get(table.key().get(0)).name());
    boolean checked = false;
    for (int i = 0; i < factors.length; i++) {
      Column column = table.columns().get(i);
      String value = dialect.readExpression(column);
      if (isUnsigned(column)) {
        String term = value + " MOD " + MODULUS + " * " + factors[i];
        terms.add(
            column.nullable()
                ? "IFNULL(" + term + ", CAST(" + NULL * factors[i] + " AS UNSIGNED))"
                : term);
      } else {
        String text = column.nullable() ? "IFNULL(" + value + ", '" + NULL_TEXT + "')" : value;
        check = "CRC32C(" + check + (checked ? " + 1" : "") + ", " + text + ")";
        checked = true;
      }
    }
    if (checked) {
      terms.add(check + " * " + CHECK_FACTOR);
    }
    return Optional.of(String.join(" + ", terms));
  }
}
