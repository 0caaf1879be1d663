package weftex.store.sqlite;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.Trigger;
import weftex.store.schema.SqlTokens;

/** Reads the catalog of an SQLite file by its pragmas. */
final class SqliteCatalog {
  private static final int GENERATED = 2;

  private final Connection connection;
  private final String prefix;
  private final SqlitePragmas pragmas;

  SqliteCatalog(Connection connection, String prefix) {
    this.connection = connection;
    this.prefix = prefix;
    this.pragmas = new SqlitePragmas(connection);
  }

  Catalog read() throws SQLException {
    return read(false);
  }

  /** The same; what is asked for may be Weftex's own ledger, too. */
  Catalog read(boolean withLedger) throws SQLException {
    Map<String, CatalogTable> tables = new HashMap<>();
    Map<String, String> notHandled = new HashMap<>();
    int others = 0;
    for (Map<String, String> row :
        pragmas.rows(
            "SELECT m.name, m.sql, l.type FROM sqlite_master m JOIN pragma_table_list l ON l.name = m.name"
                + " AND l.schema = 'main' WHERE m.type IN ('table', 'view') AND m.name NOT LIKE 'sqlite\\_%' ESCAPE '\\'")) {
      String name = row.get("name");
      if (name.equals(prefix + Catalog.LEDGER) && !withLedger || Catalog.isBeside(name)) {
        continue;
      }
      if (name.startsWith(prefix) && !row.get("type").equals("table")) {
        notHandled.put(
            name.substring(prefix.length()),
            row.get("type").equals("shadow")
                ? "a part of a virtual table"
                : "a " + row.get("type") + (row.get("type").equals("virtual") ? " table" : ""));
      } else if (name.startsWith(prefix)) {
        CatalogTable table = table(name, String.valueOf(row.get("sql")));
        tables.put(table.table().name(), table);
      } else {
        others++;
      }
    }
    String version = pragmas.rows("SELECT sqlite_version() AS v").get(0).get("v");
    return new Catalog("SQLite " + version, tables, others, notHandled);
  }

  private CatalogTable table(String realName, String sql) throws SQLException {
    List<Column> columns = new ArrayList<>();
    List<String> generated = new ArrayList<>();
    TreeMap<Integer, String> key = new TreeMap<>();
    String rowNumber = rowNumber(realName, sql);
    for (Map<String, String> row :
        pragmas.rows("PRAGMA table_xinfo(" + SqlitePragmas.quoted(realName) + ")")) {
      String name = row.get("name");
      if (Integer.parseInt(row.get("hidden")) >= GENERATED) {
        generated.add(name);
        continue;
      }
      int inKey = Integer.parseInt(row.get("pk"));
      if (inKey > 0) {
        key.put(inKey, name);
      }
      boolean notNull = row.get("notnull").equals("1") || name.equals(rowNumber);
      columns.add(
          new Column(
              name,
              SqliteForms.kind(name.equals(rowNumber)),
              row.get("type").toLowerCase(Locale.ROOT),
              0,
              !notNull,
              false,
              false));
    }
    return finished(realName, columns, generated, key, rowNumber);
  }

  private CatalogTable finished(
      String realName,
      List<Column> columns,
      List<String> generated,
      TreeMap<Integer, String> key,
      String rowNumber)
      throws SQLException {
    List<String> names = columns.stream().map(Column::name).toList();
    Map<String, String> collations = new HashMap<>();
    List<List<Integer>> unique = unique(realName, names, collations);
    List<Integer> positions = key.values().stream().map(names::indexOf).toList();
    int number = rowNumber.isEmpty() ? -1 : names.indexOf(rowNumber);
    List<ForeignKey> foreignKeys = foreignKeys(realName);
    List<Trigger> triggers = triggers(realName);
    return new CatalogTable(
        new Table(
            realName.substring(prefix.length()), columns, positions, number, unique, foreignKeys),
        realName,
        "SQLite",
        true,
        collations,
        generated,
        false,
        triggers,
        !triggers.isEmpty() || !foreignKeys.isEmpty(),
        Optional.empty());
  }

  /** The column that is another name for the row's own number: a lone key declared INTEGER. */
  private String rowNumber(String realName, String sql) throws SQLException {
    if (sql.toUpperCase(Locale.ROOT).matches("(?s).*WITHOUT\\s+ROWID\\s*;?\\s*")) {
      return "";
    }
    List<Map<String, String>> key =
        pragmas.rows("PRAGMA table_xinfo(" + SqlitePragmas.quoted(realName) + ")").stream()
            .filter(row -> !row.get("pk").equals("0"))
            .toList();
    boolean alone = key.size() == 1 && key.get(0).get("type").equalsIgnoreCase("INTEGER");
    return alone ? key.get(0).get("name") : "";
  }

  private List<List<Integer>> unique(
      String realName, List<String> names, Map<String, String> collations) throws SQLException {
    List<List<Integer>> unique = new ArrayList<>();
    for (Map<String, String> index :
        pragmas.rows("PRAGMA index_list(" + SqlitePragmas.quoted(realName) + ")")) {
      if (!index.get("unique").equals("1") || index.get("partial").equals("1")) {
        continue;
      }
      List<Integer> positions = new ArrayList<>();
      for (Map<String, String> part :
          pragmas.rows("PRAGMA index_xinfo(" + SqlitePragmas.quoted(index.get("name")) + ")")) {
        if (part.get("key").equals("1")) {
          positions.add(names.indexOf(String.valueOf(part.get("name"))));
          collations.put(String.valueOf(part.get("name")), part.get("coll"));
        }
      }
      if (!index.get("origin").equals("pk") && !positions.contains(-1)) {
        unique.add(positions);
      }
    }
    return unique;
  }

  private List<ForeignKey> foreignKeys(String realName) throws SQLException {
    Map<String, List<Map<String, String>>> byId = new LinkedHashMap<>();
    for (Map<String, String> row :
        pragmas.rows("PRAGMA foreign_key_list(" + SqlitePragmas.quoted(realName) + ")")) {
      byId.computeIfAbsent(row.get("id"), id -> new ArrayList<>()).add(row);
    }
    List<ForeignKey> keys = new ArrayList<>();
    for (List<Map<String, String>> parts : byId.values()) {
      String target = parts.get(0).get("table");
      List<String> columns = parts.stream().map(part -> part.get("from")).toList();
      List<String> targets = new ArrayList<>();
      for (Map<String, String> part : parts) {
        targets.add(part.get("to") != null ? part.get("to") : keyOf(target, targets.size()));
      }
      if (target.startsWith(prefix) && !targets.contains("")) {
        keys.add(new ForeignKey(columns, target.substring(prefix.length()), targets));
      }
    }
    return keys;
  }

  /** A foreign key that names no column refers to the primary key. */
  private String keyOf(String realName, int part) throws SQLException {
    for (Map<String, String> row :
        pragmas.rows("PRAGMA table_xinfo(" + SqlitePragmas.quoted(realName) + ")")) {
      if (row.get("pk").equals(String.valueOf(part + 1))) {
        return row.get("name");
      }
    }
    return "";
  }

  private List<Trigger> triggers(String realName) throws SQLException {
    Set<String> tables = new HashSet<>();
    pragmas
        .rows("SELECT name FROM sqlite_master WHERE type = 'table'")
        .forEach(row -> tables.add(row.get("name")));
    tables.remove(realName);
    List<Trigger> triggers = new ArrayList<>();
    for (Map<String, String> row :
        pragmas.rows(
            "SELECT name, sql FROM sqlite_master WHERE type = 'trigger' AND tbl_name = '"
                + realName.replace("'", "''")
                + "'")) {
      List<SqlTokens.Token> tokens = SqlTokens.of(String.valueOf(row.get("sql")), false);
      Set<String> named = new HashSet<>();
      tokens.stream()
          .filter(token -> token.isName() && tables.contains(token.text()))
          .forEach(token -> named.add(token.text()));
      triggers.add(new Trigger(row.get("name"), SqliteTriggers.when(tokens), named));
    }
    return triggers;
  }
}
