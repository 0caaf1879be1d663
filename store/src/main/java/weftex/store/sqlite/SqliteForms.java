package weftex.store.sqlite;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import weftex.core.row.Column;
import weftex.core.row.RowPacking;
import weftex.core.row.ValueKind;

/**
 * Puts what an SQLite row holds into the form that a column's kind asks for. Columns of kind ANY
 * keep what they hold; the others belong to a pair whose other copy is a server with strict kinds.
 */
final class SqliteForms {
  private SqliteForms() {}

  static void putText(RowPacking.Sink sink, Column column, String text, byte[] utf8) {
    switch (column.kind()) {
      case BINARY -> sink.putBytes(RowPacking.BINARY, utf8);
      case DECIMAL -> {
        BigDecimal number = numberOrNull(text);
        if (number == null) {
          sink.putBytes(RowPacking.TEXT, utf8);
        } else {
          sink.putDecimal(scaled(number, column.scale()));
        }
      }
      default -> sink.putBytes(RowPacking.TEXT, utf8);
    }
  }

  static void putNumber(RowPacking.Sink sink, Column column, Number number) {
    boolean whole = !(number instanceof Double || number instanceof Float);
    switch (column.kind()) {
      case TEXT -> sink.putBytes(RowPacking.TEXT, digits(number).getBytes(StandardCharsets.UTF_8));
      case DECIMAL -> sink.putDecimal(scaled(new BigDecimal(digits(number)), column.scale()));
      case FLOATING -> sink.putDecimal(floating(column, number.doubleValue()));
      default -> {
        if (whole) {
          sink.putWhole(number.longValue());
        } else {
          sink.putDecimal(Double.toString(number.doubleValue()));
        }
      }
    }
  }

  private static String floating(Column column, double number) {
    return column.type().startsWith("float")
        ? Float.toString((float) number)
        : Double.toString(number);
  }

  private static String digits(Number number) {
    return number instanceof Double || number instanceof Float
        ? Double.toString(number.doubleValue())
        : Long.toString(number.longValue());
  }

  private static String scaled(BigDecimal number, int scale) {
    try {
      return number.setScale(scale, RoundingMode.UNNECESSARY).toPlainString();
    } catch (ArithmeticException e) {
      // More digits than the other copy can hold: kept, so that the difference is seen.
      return number.toPlainString();
    }
  }

  private static BigDecimal numberOrNull(String text) {
    try {
      return new BigDecimal(text);
    } catch (NumberFormatException e) {
      return null;
    }
  }

  /** The kind that an SQLite column is read as within a pair of SQLite copies. */
  static ValueKind kind(boolean rowNumber) {
    return rowNumber ? ValueKind.WHOLE : ValueKind.ANY;
  }
}
