package weftex.store.testing;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import weftex.store.database.CopySpec;

/** SQL of a test on a copy: by the server's own client, or in the file. */
final class CopySql {
  private CopySql() {}

  static void run(CopySpec copy, String... statements) {
    if (copy instanceof CopySpec.Server server) {
      MariaDbServer.get().sql(server.database(), String.join(";\n", statements) + ";");
      return;
    }
    try (Connection connection = open(copy);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  private static Connection open(CopySpec copy) throws SQLException {
    return DriverManager.getConnection("jdbc:sqlite:" + ((CopySpec.SqliteFile) copy).file());
  }

  /** What a query says, a row a line, columns separated by tabs. */
  static List<String> ask(CopySpec copy, String query) {
    if (copy instanceof CopySpec.Server server) {
      return MariaDbServer.get().sql(server.database(), query + ";").lines().toList();
    }
    try (Connection connection = open(copy);
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      List<String> lines = new ArrayList<>();
      while (rows.next()) {
        List<String> cells = new ArrayList<>();
        for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
          cells.add(rows.getString(i) == null ? "NULL" : rows.getString(i));
        }
        lines.add(String.join("\t", cells));
      }
      return lines;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
