package weftex.store.copy;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.zip.CRC32;
import java.util.zip.CRC32C;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;

/**
 * The digest of a row, as a server can compute it too: a sum with one term a column, each with a
 * prime factor of its own. An unsigned number goes in modulo 2^32 - 5, everything else by the
 * CRC-32 of what the server writes; the column that can hold the longest text goes in by its
 * CRC-32C as well. An edit of a row is overlooked if all of that stays the same, by a chance of
 * about 2^-32, and of 2^-64 for the longest text.
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
  private static final long LONGEST_FACTOR = 536870909;
  private static final int MOST_COLUMNS = 1000;

  /** Factors are primes from here on. */
  private static final int FIRST_FACTOR = 900_001;

  private final int[] factors;
  private final boolean[] byNumber;
  private final int longest;
  private final CRC32 crc32 = new CRC32();
  private final CRC32C crc32c = new CRC32C();

  public RowDigest(Table table) {
    this.factors = factors(table.columns().size());
    this.longest = longest(table);
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

  /** The column that can hold the longest text or bytes, or -1. */
  private static int longest(Table table) {
    int longest = -1;
    for (int i = 0; i < table.columns().size(); i++) {
      int rank = rank(table.columns().get(i));
      if (rank > 0 && (longest < 0 || rank > rank(table.columns().get(longest)))) {
        longest = i;
      }
    }
    return longest;
  }

  private static int rank(Column column) {
    String type = column.type();
    if (column.kind() != ValueKind.TEXT && column.kind() != ValueKind.BINARY) {
      return 0;
    }
    if (type.startsWith("long") || type.equals("json")) {
      return 4;
    }
    if (type.startsWith("medium")) {
      return 3;
    }
    return type.startsWith("text") || type.startsWith("blob") ? 2 : 1;
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
    for (int i = 0; i < factors.length; i++) {
      Value value = cursor.next();
      if (value.isNull()) {
        sum += NULL * factors[i];
      } else if (byNumber[i] && value instanceof Value.Whole whole) {
        sum += Long.remainderUnsigned(whole.number().longValue(), MODULUS) * factors[i];
      } else {
        byte[] bytes = bytes(value);
        crc32.reset();
        crc32.update(bytes, 0, bytes.length);
        sum += crc32.getValue() * factors[i];
        if (i == longest) {
          crc32c.reset();
          crc32c.update(bytes, 0, bytes.length);
          sum += crc32c.getValue() * LONGEST_FACTOR;
        }
      }
    }
    return sum;
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
   * The same digest as an expression of a server that has CRC32 and CRC32C.
   *
   * @param dialect how columns are read
   */
  static Optional<String> expression(Table table, Dialect dialect) {
    int[] factors = factors(table.columns().size());
    int longest = longest(table);
    List<String> terms = new ArrayList<>();
    for (int i = 0; i < factors.length; i++) {
      Column column = table.columns().get(i);
      String value = dialect.readExpression(column);
      String term =
          isUnsigned(column)
              ? value + " MOD " + MODULUS + " * " + factors[i]
              : "CRC32(" + value + ") * " + factors[i];
      if (i == longest) {
        term += " + CRC32C(" + value + ") * " + LONGEST_FACTOR;
      }
      terms.add(
          column.nullable()
              ? "IFNULL(" + term + ", CAST(" + NULL * factors[i] + " AS UNSIGNED))"
              : term);
    }
    return Optional.of(String.join(" + ", terms));
  }
}
