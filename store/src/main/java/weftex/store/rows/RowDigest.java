package weftex.store.rows;

import java.nio.charset.StandardCharsets;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.database.Dialect;
import weftex.store.database.Layout;

/**
 * The digest of a row, 64 bits, as a server can compute it too; the digest of a range of rows is
 * the exclusive or of theirs.
 *
 * <p>Two CRCs of different polynomials run through what the server writes of one column after the
 * other, the key aside, so an edit of one row is overlooked by a chance of 2^-64. CRCs are linear,
 * so equal edits of two rows change them by the same bits; therefore each is multiplied by a factor
 * that the key gives, modulo a prime, before rows are joined: what two rows of a range contribute
 * cancels by chance alone, 2^-32 for each half. The factor is the other CRC of the key: were it the
 * key itself, four rows with equal values would be an arithmetic progression, whose exclusive or is
 * seldom anything. {@code DigestCollisionsTest} counts.
 *
 * <p>Between columns one is added to each CRC, so that text can't move from one column to the next
 * unseen, and one more to the low half before a NULL, so that NULL is unlike any text.
 *
 * <p>No product exceeds 2^64, since a server would refuse it. If a server should write a value in
 * another way than this class, the range merely seems to differ and is read.
 */
public final class RowDigest {
  /** Stands for NULL, whose CRC begins with another number than that of this text would. */
  private static final String NULL_TEXT = "~NULL~";

  private static final byte[] NULL_BYTES = NULL_TEXT.getBytes(StandardCharsets.US_ASCII);
  private static final int MOST_COLUMNS = 1000;

  /**
   * One half of a digest.
   *
   * @param function the server's name of the CRC that runs through the columns
   * @param seed with which it begins
   * @param marksNull whether NULL begins with another number
   * @param keyFunction the server's name of the CRC of the key
   * @param keySeed with which that begins
   * @param modulus a prime just below 2^32
   */
  private record Half(
      String function,
      long seed,
      boolean marksNull,
      String keyFunction,
      long keySeed,
      long modulus) {
    static final Half LOW =
        new Half("CRC32C", 2654435769L, true, "CRC32", 1640531527L, 4294967291L);
    static final Half HIGH =
        new Half("CRC32", 2246822519L, false, "CRC32C", 1013904223L, 4294967279L);

    long mixed(long crc, long factor) {
      return Long.remainderUnsigned(crc * factor, modulus);
    }

    /**
     * @param withNulls whether any value may be NULL
     */
    String expression(Table table, boolean withNulls, Dialect dialect) {
      String crc = Long.toString(seed);
      for (int i = 0; i < table.columns().size(); i++) {
        if (table.key().contains(i)) {
          continue;
        }
        Column column = table.columns().get(i);
        String value = dialect.readExpression(column);
        String from = crc + " + 1";
        if (withNulls && column.nullable()) {
          from += marksNull ? " + ISNULL(" + dialect.quote(column.name()) + ")" : "";
          value = "IFNULL(" + value + ", '" + NULL_TEXT + "')";
        }
        crc = function + "(" + from + ", " + value + ")";
      }
      String key = dialect.readExpression(table.columns().get(table.key().get(0)));
      return crc + " * " + keyFunction + "(" + keySeed + ", " + key + ") MOD " + modulus;
    }
  }

  private final int columns;
  private final int key;
  private final SeededCrc low = SeededCrc.crc32c();
  private final SeededCrc high = SeededCrc.crc32();

  public RowDigest(Table table) {
    this.columns = table.columns().size();
    this.key = table.key().get(0);
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
      case WHOLE -> !column.type().contains("zerofill");
      case DECIMAL, TEXT -> true;
      case BINARY -> column.type().contains("blob") || column.type().contains("binary");
      case FLOATING, ANY -> false;
    };
  }

  /** The digest of a row whose key is not negative. */
  public long of(Row row) {
    RowPacking.Cursor cursor = row.cursor();
    long ofLow = Half.LOW.seed();
    long ofHigh = Half.HIGH.seed();
    for (int i = 0; i < columns; i++) {
      Value value = cursor.next();
      if (i != key) {
        byte[] bytes = value.isNull() ? NULL_BYTES : bytes(value);
        ofLow = low.of(ofLow + (value.isNull() ? 2 : 1), bytes);
        ofHigh = high.of(ofHigh + 1, bytes);
      }
    }
    byte[] number = Long.toString(SortKey.toWhole(row.key())).getBytes(StandardCharsets.US_ASCII);
    return Half.LOW.mixed(ofLow, high.of(Half.LOW.keySeed(), number))
        + (Half.HIGH.mixed(ofHigh, low.of(Half.HIGH.keySeed(), number)) << Integer.SIZE);
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
   * The same digest as an expression of a server that has {@code CRC32} and {@code CRC32C} with a
   * beginning.
   *
   * @param dialect how columns are read
   */
  public static String expression(Table table, Dialect dialect) {
    String nulls =
        IntStream.range(0, table.columns().size())
            .filter(i -> !table.key().contains(i))
            .mapToObj(i -> table.columns().get(i))
            .filter(Column::nullable)
            .map(column -> dialect.quote(column.name()) + " IS NULL")
            .collect(Collectors.joining(" OR "));
    String whole = expression(table, false, dialect);
    // Most rows have no NULL, and looking for one in each value costs a tenth of the time.
    return nulls.isEmpty()
        ? whole
        : "IF(" + nulls + ", " + expression(table, true, dialect) + ", " + whole + ")";
  }

  private static String expression(Table table, boolean withNulls, Dialect dialect) {
    return Half.LOW.expression(table, withNulls, dialect)
        + " + (("
        + Half.HIGH.expression(table, withNulls, dialect)
        + ") << "
        + Integer.SIZE
        + ")";
  }
}
