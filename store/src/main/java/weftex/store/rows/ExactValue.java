package weftex.store.rows;

import java.nio.charset.StandardCharsets;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.database.Dialect;
import weftex.store.database.KeyPart;

/** A condition by which a value equals another byte by byte, whatever a collation finds equal. */
public final class ExactValue {
  private ExactValue() {}

  /** The condition, with one placeholder. */
  public static String condition(Dialect dialect, Column column) {
    String expression =
        column.kind() == ValueKind.FLOATING
            ? dialect.quote(column.name())
            : dialect.keyExpression(column, KeyPart.BYTES);
    return expression + " " + dialect.nullSafeEquals() + " ?";
  }

  /** Binds the value that the condition asks for. */
  public static void bind(
      Dialect dialect, PreparedStatement statement, int index, Column column, Value value)
      throws SQLException {
    boolean asIs = value.isNull() || column.kind() == ValueKind.FLOATING;
    dialect.bind(statement, index, column, asIs ? value : new Value.Binary(bytes(value)));
  }

  private static byte[] bytes(Value value) {
    if (value instanceof Value.Text text) {
      return text.utf8();
    }
    return value instanceof Value.Binary binary
        ? binary.bytes()
        : value.display().getBytes(StandardCharsets.US_ASCII);
  }
}
