package weftex.store.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Asks a file what it says of itself. */
final class SqlitePragmas {

  private final Connection connection;

  SqlitePragmas(Connection connection) {
    this.connection = connection;
  }

  static String quoted(String name) {
    return "\"" + name.replace("\"", "\"\"") + "\"";
  }

  List<Map<String, String>> rows(String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      List<Map<String, String>> found = new ArrayList<>();
      int columns = rows.getMetaData().getColumnCount();
      while (rows.next()) {
        Map<String, String> row = new HashMap<>();
        for (int i = 1; i <= columns; i++) {
          row.put(rows.getMetaData().getColumnLabel(i), rows.getString(i));
        }
        found.add(row);
      }
      return found;
    }
  }
}
