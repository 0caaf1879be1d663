package weftex.store.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import weftex.store.dump.SavedContents.Kind;
import weftex.store.dump.SavedContents.Piece;

/** The counters of a file, as a dump holds them. */
final class SqliteSequences {

  private SqliteSequences() {}

  /** The highest number that a table has given out, which no row need have any more. */
  static void sequence(Connection connection, String table, List<Piece> pieces)
      throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SELECT 1 FROM sqlite_master WHERE name = 'sqlite_sequence'")) {
      if (!rows.next()) {
        return;
      }
    }
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery(
                "SELECT seq FROM sqlite_sequence WHERE name = " + SqliteDump.quotedText(table))) {
      if (rows.next()) {
        String name = SqliteDump.quotedText(table);
        pieces.add(
            new Piece(
                Kind.SETTING,
                table,
                "",
                "DELETE FROM sqlite_sequence WHERE name = " + name,
                false));
        pieces.add(
            new Piece(
                Kind.SETTING,
                table,
                "",
                "INSERT INTO sqlite_sequence (name, seq) VALUES ("
                    + name
                    + ", "
                    + rows.getString(1)
                    + ")",
                false));
      }
    }
  }
}
