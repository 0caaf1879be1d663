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
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.dump.Restoring;
import weftex.store.dump.SavedContents;
import weftex.store.sqltext.SavedStatement;

/**
 * Loads tables into a file of their own, a copy of the present one, and switches in one
 * transaction: by SQLite's backup interface, or table by table where the file has others' tables
 * too, to which something may have come meanwhile.
 */
final class SqliteRestoring implements Restoring {
  private final CopySpec.SqliteFile spec;
  private final Path loaded;
  private final Path aside;
  private List<String> tables = List.of();
  private Connection beside;

  SqliteRestoring(CopySpec.SqliteFile spec) {
    this.spec = spec;
    Path file = spec.file().toAbsolutePath();
    this.loaded = file.resolveSibling(file.getFileName() + "-weftex-new");
    this.aside = file.resolveSibling(file.getFileName() + "-weftex-aside");
  }

  private Connection present() throws SQLException {
    try {
      return Connecting.open(spec);
    } catch (Refusal e) {
      throw new SQLException(e.reason(), e);
    }
  }

  private static void run(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  private static long number(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      rows.next();
      return rows.getLong(1);
    }
  }

  private static void delete(Path file) throws SQLException {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      throw new SQLException(file + " can't be removed: " + FailureWords.of(e), e);
    }
  }

  /** A file's name as the driver's own statements take it. */
  private static String quoted(Path file) {
    return "\"" + file + "\"";
  }

  @Override
  public List<String> obstacles(List<String> wanted) {
    boolean unquotable = loaded.toString().indexOf('"') >= 0;
    return unquotable ? List.of("the path of its file has a quotation mark") : List.of();
  }

  @Override
  public void begin(List<String> wanted) throws SQLException {
    this.tables = List.copyOf(wanted);
    delete(loaded);
    try (Connection connection = present()) {
      run(connection, "backup to " + quoted(loaded));
    }
    beside = DriverManager.getConnection("jdbc:sqlite:" + loaded);
    run(beside, "PRAGMA foreign_keys = OFF");
    run(beside, "PRAGMA synchronous = OFF");
    run(beside, "BEGIN");
    dropOwn(beside);
  }

  private void dropOwn(Connection connection) throws SQLException {
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

  private boolean isShared(Connection connection) throws SQLException {
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
  private void become(Path other) throws SQLException {
    try (Connection present = present()) {
      if (isShared(present)) {
        becomeByTables(present, other);
      } else {
        run(present, "restore from " + quoted(other));
      }
    }
  }

  private void becomeByTables(Connection present, Path other) throws SQLException {
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

  private Map<String, CatalogTable> own(Connection connection) throws SQLException {
    Map<String, CatalogTable> own = new LinkedHashMap<>();
    for (CatalogTable table :
        new SqliteCatalog(connection, spec.prefix()).read(true).ofOneSite().all()) {
      own.put(table.realName(), table);
    }
    return own;
  }

  @Override
  public void execute(SavedStatement statement) throws SQLException {
    switch (statement.kind()) {
      case TABLE, ROWS, INDEX, VIEW, TRIGGER, SEQUENCE -> run(beside, statement.text());
      case SETTING, NOTHING -> {}
    }
  }

  @Override
  public Map<String, Long> counts() throws SQLException {
    run(beside, "COMMIT");
    Map<String, Long> counts = new LinkedHashMap<>();
    for (String table : tables) {
      counts.put(table, number(beside, "SELECT COUNT(*) FROM " + SqliteDump.quoted(table)));
    }
    return counts;
  }

  @Override
  public Map<String, Since> since() throws SQLException {
    Map<String, Since> all = new LinkedHashMap<>();
    Map<String, CatalogTable> loadedTables = own(beside);
    try (Connection connection = present()) {
      run(connection, "ATTACH " + SqliteDump.quotedText(loaded.toString()) + " AS loaded");
      for (CatalogTable table : own(connection).values()) {
        if (table.table().name().equals(Catalog.LEDGER)) {
          continue;
        }
        CatalogTable there = loadedTables.get(table.realName());
        Since since =
            there != null && table.table().hasKey()
                ? sinceByKey(connection, table, there)
                : new Since(
                    count(connection, "main", table)
                        - (there == null ? 0 : count(connection, "loaded", table)),
                    0);
        if (!since.isNothing()) {
          all.put(table.realName(), since);
        }
      }
    }
    return all;
  }

  private static long count(Connection connection, String schema, CatalogTable table)
      throws SQLException {
    return number(
        connection, "SELECT COUNT(*) FROM " + schema + "." + SqliteDump.quoted(table.realName()));
  }

  private static Since sinceByKey(
      Connection connection, CatalogTable table, CatalogTable loadedTable) throws SQLException {
    Table shape = table.table();
    String name = SqliteDump.quoted(table.realName());
    List<String> key = new ArrayList<>();
    List<String> same = new ArrayList<>();
    for (int i = 0; i < shape.columns().size(); i++) {
      Column column = shape.columns().get(i);
      String quoted = SqliteDump.quoted(column.name());
      String equal = "there." + quoted + " IS here." + quoted;
      if (shape.key().contains(i)) {
        key.add(equal);
      }
      if (loadedTable.table().position(column.name()).isPresent()) {
        same.add(equal + " COLLATE BINARY");
      }
    }
    String exists =
        "EXISTS (SELECT 1 FROM loaded." + name + " there WHERE " + String.join(" AND ", key);
    String from = "SELECT COUNT(*) FROM main." + name + " here WHERE ";
    long added = number(connection, from + "NOT " + exists + ")");
    long edited =
        number(connection, from + exists + " AND NOT (" + String.join(" AND ", same) + "))");
    return new Since(added, edited);
  }

  @Override
  public void switchOver() throws SQLException {
    beside.close();
    beside = null;
    delete(aside);
    try (Connection connection = present()) {
      run(connection, "backup to " + quoted(aside));
    }
    become(loaded);
  }

  @Override
  public boolean hasAside() {
    return Files.exists(aside);
  }

  @Override
  public void back() throws SQLException {
    become(aside);
    delete(aside);
  }

  @Override
  public void dropAside() throws SQLException {
    delete(aside);
  }

  @Override
  public void close() throws SQLException {
    if (beside != null) {
      beside.close();
      beside = null;
    }
    delete(loaded);
  }
}
