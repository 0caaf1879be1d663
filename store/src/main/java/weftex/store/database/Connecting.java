package weftex.store.database;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import weftex.store.Refusal;

/** Opens and closes connections, and words why a copy can't be reached. */
public final class Connecting {
  private Connecting() {}

  /** Opens a connection to a copy; whoever asked closes it. */
  public static Connection open(CopySpec spec) throws Refusal {
    return Dialect.of(spec).open(spec);
  }

  /** Called when a copy has tables, but none with its prefix. */
  public static Refusal wrongPrefix(CopySpec spec, Connection connection) throws SQLException {
    List<String> tables = new ArrayList<>();
    try (ResultSet rows =
        connection.getMetaData().getTables(connection.getCatalog(), null, "%", null)) {
      while (rows.next() && tables.size() < 3) {
        tables.add(rows.getString("TABLE_NAME"));
      }
    }
    return refusal(
        spec,
        "the database is there, but none of its tables begins with the prefix '"
            + spec.prefix()
            + "'; there are "
            + String.join(", ", tables),
        "Correct 'prefix' of " + spec.name() + " in weftex.yaml.",
        null);
  }

  public static Refusal refusal(CopySpec spec, String what, String next, Exception cause) {
    return new Refusal(
        Refusal.Kind.UNREACHABLE,
        "The copy '" + spec.name() + "' can't be reached: " + what + ". Nothing was changed.",
        next,
        cause);
  }

  public static void close(Connection connection) {
    try {
      connection.close();
    } catch (SQLException e) {
      // The connection is given up anyway.
    }
  }
}
