package weftex.store.dump;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Optional;
import weftex.store.Refusal;
import weftex.store.database.Catalog;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;

/**
 * The mark of a scratch database, without which it is never emptied: what was loaded, and whether
 * the loading came to its end.
 *
 * @param sha256 of the file
 * @param bytes how long the file was, {@code modified} when it was written
 * @param whole whether all of it is there, and nothing else
 * @param left the lines of the file at which views, triggers and routines stand, which stay text
 */
public record ScratchMark(String sha256, long bytes, long modified, boolean whole, String left) {
  /** The rows are others than the file's. */
  static final ScratchMark SOILED = new ScratchMark("", 0, 0, false, "");

  private static final String TABLE = Catalog.NEW + "scratch";

  /** The mark of a database; empty if it has none. */
  static Optional<ScratchMark> of(Connection connection) {
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery(
                "SELECT sha256, bytes, modified, whole, text_at FROM " + TABLE)) {
      return rows.next()
          ? Optional.of(
              new ScratchMark(
                  rows.getString(1),
                  rows.getLong(2),
                  rows.getLong(3),
                  rows.getInt(4) == 1,
                  rows.getString(5)))
          : Optional.of(SOILED);
    } catch (SQLException e) {
      // There is no such table.
      return Optional.empty();
    }
  }

  /** Makes the table for it, in a database that is empty. */
  static void makeTable(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(
          "CREATE TABLE "
              + TABLE
              + " (sha256 VARCHAR(64), bytes BIGINT, modified BIGINT, whole INT, text_at TEXT)");
    }
  }

  /** Puts it in the place of the one before. */
  void write(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement();
        PreparedStatement insert =
            connection.prepareStatement("INSERT INTO " + TABLE + " VALUES (?, ?, ?, ?, ?)")) {
      statement.execute("DELETE FROM " + TABLE);
      insert.setString(1, sha256);
      insert.setLong(2, bytes);
      insert.setLong(3, modified);
      insert.setInt(4, whole ? 1 : 0);
      insert.setString(5, left);
      insert.executeUpdate();
    }
  }

  /**
   * Whether a scratch database has rows that a file has no more: those of a backup, which nobody
   * reads any more, or of a loading that did not come to its end.
   *
   * @param of the file whose rows it would have; empty for a backup
   * @throws Refusal if it can't be reached, as when it is not there
   */
  public static boolean isLeftOver(CopySpec scratch, Optional<Path> of) throws Refusal {
    try (Connection connection = Connecting.open(scratch)) {
      Optional<ScratchMark> mark = of(connection);
      if (mark.isEmpty()) {
        return false;
      }
      boolean current =
          of.isPresent()
              && Files.isRegularFile(of.get())
              && mark.get().whole()
              && mark.get().bytes() == Files.size(of.get());
      return !current;
    } catch (SQLException | IOException e) {
      // Whoever loads the file will say what is wrong.
      return false;
    }
  }
}
