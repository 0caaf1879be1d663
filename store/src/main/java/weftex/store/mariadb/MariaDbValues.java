package weftex.store.mariadb;

import java.math.BigInteger;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLDataException;
import java.sql.SQLException;
import java.sql.Types;
import java.util.regex.Pattern;
import weftex.core.row.Column;
import weftex.core.row.RowPacking;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.database.Dialect;

/** Values of MariaDB as they are read and bound, so that each comes back as the server has it. */
final class MariaDbValues {
  private static final Pattern WRITTEN_OUT = Pattern.compile("date|time|uuid|inet");
  private static final Pattern RAW_TEXT =
      Pattern.compile("(var)?char|(tiny|medium|long)?text|enum|set");

  private MariaDbValues() {}

  /**
   * How a column is read.
   *
   * @param name quoted
   */
  static String readExpression(Column column, String name) {
    if (isRawText(column)) {
      return "CAST(" + name + " AS BINARY)";
    }
    if (column.kind() == ValueKind.WHOLE && column.type().startsWith("bit")) {
      return "(" + name + " + 0)";
    }
    return isWrittenOut(column) ? "CAST(" + name + " AS CHAR)" : name;
  }

  /**
   * Text whose character set does not come back through Unicode unharmed is carried as its bytes.
   */
  private static boolean isRawText(Column column) {
    return column.kind() == ValueKind.BINARY && RAW_TEXT.matcher(column.type()).lookingAt();
  }

  /** Types whose binary form on the wire is not what the server would write. */
  static boolean isWrittenOut(Column column) {
    return WRITTEN_OUT.matcher(column.type()).lookingAt();
  }

  /** What reads a column's cells. */
  static Dialect.CellReader cellReader(Column column) {
    return switch (column.kind()) {
      case WHOLE -> MariaDbValues::readWhole;
      case FLOATING ->
          column.type().startsWith("float") ? MariaDbValues::readFloat : MariaDbValues::readDouble;
      case DECIMAL -> MariaDbValues::readDecimal;
      case TEXT -> (rows, index, sink) -> readBytes(rows, index, RowPacking.TEXT, sink);
      case BINARY, ANY -> (rows, index, sink) -> readBytes(rows, index, RowPacking.BINARY, sink);
    };
  }

  private static void readBytes(ResultSet rows, int index, int branch, RowPacking.Sink sink)
      throws SQLException {
    byte[] bytes = rows.getBytes(index);
    if (bytes == null) {
      sink.putNull();
    } else {
      sink.putBytes(branch, bytes);
    }
  }

  private static void readWhole(ResultSet rows, int index, RowPacking.Sink sink)
      throws SQLException {
    long value;
    try {
      value = rows.getLong(index);
    } catch (SQLDataException e) {
      // Beyond the signed range.
      sink.putWhole(new BigInteger(rows.getString(index)));
      return;
    }
    if (value == 0 && rows.wasNull()) {
      sink.putNull();
    } else {
      sink.putWhole(value);
    }
  }

  private static void readDecimal(ResultSet rows, int index, RowPacking.Sink sink)
      throws SQLException {
    String digits = rows.getString(index);
    if (digits == null) {
      sink.putNull();
    } else {
      sink.putDecimal(digits);
    }
  }

  private static void readFloat(ResultSet rows, int index, RowPacking.Sink sink)
      throws SQLException {
    float value = rows.getFloat(index);
    if (rows.wasNull()) {
      sink.putNull();
    } else {
      sink.putDecimal(Float.toString(value));
    }
  }

  private static void readDouble(ResultSet rows, int index, RowPacking.Sink sink)
      throws SQLException {
    double value = rows.getDouble(index);
    if (rows.wasNull()) {
      sink.putNull();
    } else {
      sink.putDecimal(Double.toString(value));
    }
  }

  /** Puts a value in a parameter's place. */
  static void bind(PreparedStatement statement, int index, Column column, Value value)
      throws SQLException {
    if (value.isNull()) {
      statement.setNull(index, Types.NULL);
    } else if (value instanceof Value.Whole whole) {
      if (whole.number().bitLength() < Long.SIZE) {
        statement.setLong(index, whole.number().longValue());
      } else {
        statement.setString(index, whole.display());
      }
    } else if (value instanceof Value.Decimal decimal) {
      bindDecimal(statement, index, column, decimal.digits());
    } else if (value instanceof Value.Text text) {
      if (text.isWellFormed()) {
        statement.setString(index, text.display());
      } else {
        statement.setBytes(index, text.utf8());
      }
    } else if (value instanceof Value.Binary binary) {
      statement.setBytes(index, binary.bytes());
    } else {
      throw new IllegalArgumentException("can't be bound: " + value);
    }
  }

  private static void bindDecimal(
      PreparedStatement statement, int index, Column column, String digits) throws SQLException {
    if (column.kind() == ValueKind.FLOATING && column.type().startsWith("float")) {
      statement.setFloat(index, Float.parseFloat(digits));
    } else if (column.kind() == ValueKind.FLOATING) {
      statement.setDouble(index, Double.parseDouble(digits));
    } else {
      statement.setString(index, digits);
    }
  }
}
