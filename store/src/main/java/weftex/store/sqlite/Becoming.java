package weftex.store.sqlite;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.CatalogTable;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.dump.SavedContents;

/** Puts a loaded file in the place of a database, or its tables. */
final class Becoming {

  private final CopySpec.SqliteFile spec;

  Becoming(CopySpec.SqliteFile spec) {
    this.spec = spec;
  }

  Connection present() throws SQLException {
    try {
      return Connecting.open(spec);
    } catch (Refusal e) {
      throw new SQLException(e.reason(), e);
    }
  }

  static void run(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  static long number(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      rows.next();
      return rows.getLong(1);
    }
  }

  static void delete(Path file) throws SQLException {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      throw new SQLException(file + " can't be removed: " + FailureWords.of(e), e);
    }
  }

  /** A file's name as the driver's own statements take it. */
  static String quoted(Path file) {
    return "\"" + file + "\"";
  }

  void dropOwn(Connection connection) throws SQLException {
    List<String> drops = new ArrayList<>();
    Map<String, CatalogTable> own = own(connection);
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SELECT type, name FROM sqlite_master ORDER BY type DESC")) {
      while (rows.next()) {
        String name = rows.getString(2);
        boolean view = rows.getString(1).equals("view") && name.startsWith(spec.prefix());
        if (view || rows.getString(1).equals("table") && own.containsKey(name)) {
          drops.add("DROP " + rows.getString(1) + " " + SqliteDump.quoted(name));
        }
      }
    }
    for (String drop : drops) {
      run(connection, drop);
    }
  }

  boolean isShared(Connection connection) throws SQLException {
    Map<String, CatalogTable> own = own(connection);
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SELECT name FROM sqlite_master WHERE type = 'table'")) {
      while (rows.next()) {
        String name = rows.getString(1);
        if (!own.containsKey(name) && !name.startsWith("sqlite_")) {
          return true;
        }
      }
    }
    return false;
  }

  /** Makes the tables of the copy what they are in another file. */
  void become(Path other) throws SQLException {
    try (Connection present = present()) {
      if (isShared(present)) {
        becomeByTables(present, other);
      } else {
        run(present, "restore from " + quoted(other));
      }
    }
  }

  void becomeByTables(Connection present, Path other) throws SQLException {
    SavedContents contents;
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + other)) {
      contents = new SqliteDump().contents(connection, spec);
    }
    run(present, "PRAGMA foreign_keys = OFF");
    run(present, "ATTACH " + SqliteDump.quotedText(other.toString()) + " AS other");
    run(present, "BEGIN IMMEDIATE");
    try {
      dropOwn(present);
      for (SavedContents.SavedTable table : contents.tables()) {
        run(present, table.create());
        String name = SqliteDump.quoted(table.name());
        String columns =
            table.table().table().columns().stream()
                .map(column -> SqliteDump.quoted(column.name()))
                .collect(Collectors.joining(", "));
        run(
            present,
            "INSERT INTO main."
                + name
                + " ("
                + columns
                + ") SELECT "
                + columns
                + " FROM other."
                + name);
      }
      for (SavedContents.Piece piece : contents.others()) {
        run(present, piece.create());
      }
      run(present, "COMMIT");
    } catch (SQLException e) {
      run(present, "ROLLBACK");
      throw e;
    }
  }

  Map<String, CatalogTable> own(Connection connection) throws SQLException {
    Map<String, CatalogTable> own = new LinkedHashMap<>();
    for (CatalogTable table :
        new SqliteCatalog(connection, spec.prefix()).read(true).ofOneSite().all()) {
      own.put(table.realName(), table);
    }
    return own;
  }
}
