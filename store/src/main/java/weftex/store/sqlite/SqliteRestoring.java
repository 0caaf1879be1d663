package weftex.store.sqlite;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;
import weftex.store.dump.Restoring;
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
  private final Becoming becoming;

  SqliteRestoring(CopySpec.SqliteFile spec) {
    this.spec = spec;
    Path file = spec.file().toAbsolutePath();
    this.loaded = file.resolveSibling(file.getFileName() + "-weftex-new");
    this.aside = file.resolveSibling(file.getFileName() + "-weftex-aside");
    this.becoming = new Becoming(spec);
  }

  @Override
  public List<String> obstacles(List<String> wanted) {
    boolean unquotable = loaded.toString().indexOf('"') >= 0;
    return unquotable ? List.of("the path of its file has a quotation mark") : List.of();
  }

  @Override
  public void begin(List<String> wanted) throws SQLException {
    this.tables = List.copyOf(wanted);
    Becoming.delete(loaded);
    try (Connection connection = becoming.present()) {
      Becoming.run(connection, "backup to " + Becoming.quoted(loaded));
    }
    beside = DriverManager.getConnection("jdbc:sqlite:" + loaded);
    Becoming.run(beside, "PRAGMA foreign_keys = OFF");
    Becoming.run(beside, "PRAGMA synchronous = OFF");
    Becoming.run(beside, "BEGIN");
    becoming.dropOwn(beside);
  }

  @Override
  public void execute(SavedStatement statement) throws SQLException {
    switch (statement.kind()) {
      case TABLE, ROWS, INDEX, VIEW, TRIGGER, SEQUENCE -> Becoming.run(beside, statement.text());
      case SETTING, NOTHING -> {}
    }
  }

  @Override
  public Map<String, Long> counts() throws SQLException {
    Becoming.run(beside, "COMMIT");
    Map<String, Long> counts = new LinkedHashMap<>();
    for (String table : tables) {
      counts.put(
          table, Becoming.number(beside, "SELECT COUNT(*) FROM " + SqliteDump.quoted(table)));
    }
    return counts;
  }

  @Override
  public Map<String, Since> since() throws SQLException {
    Map<String, Since> all = new LinkedHashMap<>();
    Map<String, CatalogTable> loadedTables = becoming.own(beside);
    try (Connection connection = becoming.present()) {
      Becoming.run(connection, "ATTACH " + SqliteDump.quotedText(loaded.toString()) + " AS loaded");
      for (CatalogTable table : becoming.own(connection).values()) {
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
    return Becoming.number(
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
    long added = Becoming.number(connection, from + "NOT " + exists + ")");
    long edited =
        Becoming.number(
            connection, from + exists + " AND NOT (" + String.join(" AND ", same) + "))");
    return new Since(added, edited);
  }

  @Override
  public void switchOver() throws SQLException {
    beside.close();
    beside = null;
    Becoming.delete(aside);
    try (Connection connection = becoming.present()) {
      Becoming.run(connection, "backup to " + Becoming.quoted(aside));
    }
    becoming.become(loaded);
  }

  @Override
  public boolean hasAside() {
    return Files.exists(aside);
  }

  @Override
  public void back() throws SQLException {
    becoming.become(aside);
    Becoming.delete(aside);
  }

  @Override
  public void dropAside() throws SQLException {
    Becoming.delete(aside);
  }

  @Override
  public void close() throws SQLException {
    if (beside != null) {
      beside.close();
      beside = null;
    }
    Becoming.delete(loaded);
  }
}
