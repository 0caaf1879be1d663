package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import weftex.core.yaml.Nearest;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;

/** Chooses the database after the login, or says which there are. */
final class DatabaseChoice {

  private static final int NO_RIGHT_TO_DATABASE = 1044;

  private DatabaseChoice() {}

  static boolean use(Connection connection, String database) throws SQLException {
    if (!visibleDatabases(connection).contains(database)) {
      return false;
    }
    try {
      connection.setCatalog(database);
      return true;
    } catch (SQLException e) {
      if (e.getErrorCode() == NO_RIGHT_TO_DATABASE) {
        return false;
      }
      throw e;
    }
  }

  static List<String> visibleDatabases(Connection connection) throws SQLException {
    List<String> names = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SELECT SCHEMA_NAME FROM information_schema.SCHEMATA")) {
      while (rows.next()) {
        names.add(rows.getString(1));
      }
    }
    return names;
  }

  static Refusal wrongDatabase(Connection connection, CopySpec.Server spec) throws SQLException {
    if (isGuest(connection)) {
      return Connecting.refusal(
          spec,
          "the server has no user '"
              + spec.user()
              + "', and accepts unknown users only as anonymous",
          "Correct 'user' of " + spec.name() + " in weftex.yaml.",
          null);
    }
    List<String> visible = new ArrayList<>(visibleDatabases(connection));
    visible.removeAll(List.of("information_schema", "performance_schema", "mysql", "sys"));
    String meant =
        Nearest.to(spec.database(), visible)
            .map(name -> " Did you mean '" + name + "'?")
            .orElse("");
    return Connecting.refusal(
        spec,
        "host, user and password are right, but there is no database '"
            + spec.database()
            + "' that user '"
            + spec.user()
            + "' may see",
        "Correct 'database' of "
            + spec.name()
            + " in weftex.yaml, or have the right granted."
            + meant,
        null);
  }

  /** Some servers let an unknown name in as the anonymous user, which may see next to nothing. */
  static boolean isGuest(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SELECT CURRENT_USER()")) {
      return rows.next() && rows.getString(1).startsWith("@");
    }
  }
}
