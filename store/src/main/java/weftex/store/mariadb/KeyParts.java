package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.Map;
import weftex.core.row.Column;

/** How the columns of a key compare: by length, and whether spaces at the end count. */
final class KeyParts {

  private final Map<String, Boolean> padded = new HashMap<>();

  /** Characters, doubled, since one character may expand to more than one weight. */
  static int length(Column column) {
    String digits = column.type().replaceAll("^\\D*(\\d+)?.*$", "$1");
    int characters =
        column.type().startsWith("enum") || digits.isEmpty() ? 255 : Integer.parseInt(digits);
    return Math.min(characters, 1024) * 2;
  }

  /** Whether a collation takes trailing spaces for nothing: the server is asked, not the name. */
  boolean isPadded(Connection connection, String collation) throws SQLException {
    Boolean known = padded.get(collation);
    if (known == null) {
      String charset = collation.substring(0, Math.max(collation.indexOf('_'), 0));
      charset = charset.isEmpty() ? "binary" : charset;
      String sql =
          "SELECT CONVERT('a' USING "
              + charset
              + ") COLLATE "
              + collation
              + " = CONVERT('a ' USING "
              + charset
              + ") COLLATE "
              + collation;
      try (Statement statement = connection.createStatement();
          ResultSet rows = statement.executeQuery(sql)) {
        rows.next();
        known = rows.getInt(1) == 1;
      }
      padded.put(collation, known);
    }
    return known;
  }
}
