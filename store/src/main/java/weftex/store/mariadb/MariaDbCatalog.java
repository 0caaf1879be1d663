package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
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
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;
import weftex.store.database.Trigger;
import weftex.store.schema.SqlTokens;

/** Reads the catalog of a MariaDB database from its information schema. */
final class MariaDbCatalog {
  private static final Set<String> ROLLS_BACK = Set.of("innodb", "rocksdb", "tokudb");

  /** Engines whose rows are elsewhere, or another table's, or nowhere. */
  private static final Set<String> ROWS_ELSEWHERE =
      Set.of(
          "mrg_myisam", "federated", "connect", "spider", "s3", "sphinx", "oqgraph", "blackhole");

  private final Connection connection;
  private final CopySpec.Server spec;
  private final Map<String, String> notHandled = new HashMap<>();
  private final Map<String, TableDraft> drafts = new LinkedHashMap<>();

  /** Without the right to make triggers a user does not see them either. */
  private boolean triggersHidden;

  record ForeignKeyDraft(String table, List<String> columns, List<String> targets) {}

  MariaDbCatalog(Connection connection, CopySpec.Server spec) {
    this.connection = connection;
    this.spec = spec;
  }

  Catalog read() throws SQLException {
    return read(false);
  }

  /** The same; what is asked for may be Weftex's own ledger, too. */
  Catalog read(boolean withLedger) throws SQLException {
    int[] others = {0};
    triggersHidden = !MariaDbRights.missing(connection, spec, List.of("TRIGGER")).isEmpty();
    each(
        "SELECT TABLE_NAME, ENGINE, TABLE_TYPE FROM information_schema.TABLES WHERE TABLE_SCHEMA = ?"
            + " ORDER BY TABLE_NAME",
        row -> {
          String name = row.getString(1);
          boolean ledger = name.equals(spec.prefix() + Catalog.LEDGER);
          if (!name.startsWith(spec.prefix()) || ledger && !withLedger || Catalog.isBeside(name)) {
            others[0] += name.endsWith(Catalog.LEDGER) || Catalog.isBeside(name) ? 0 : 1;
            return;
          }
          TableDraft draft = new TableDraft();
          draft.engine = Optional.ofNullable(row.getString(2)).orElse("unknown");
          draft.versioned = row.getString(3).equals("SYSTEM VERSIONED");
          Optional<String> what = whatElse(row.getString(3), draft.engine);
          if (what.isPresent()) {
            notHandled.put(name.substring(spec.prefix().length()), what.get());
          } else {
            drafts.put(name, draft);
          }
        });
    readColumns();
    readIndexes();
    readForeignKeys();
    readTriggers();
    Map<String, CatalogTable> tables = new HashMap<>();
    drafts.forEach(
        (name, draft) -> {
          CatalogTable table = finish(name, draft);
          tables.put(table.table().name(), table);
        });
    return new Catalog(server(), tables, others[0], notHandled);
  }

  private void readTriggers() throws SQLException {
    each(
        "SELECT EVENT_OBJECT_TABLE, TRIGGER_NAME, ACTION_TIMING, EVENT_MANIPULATION, ACTION_STATEMENT"
            + " FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = ?",
        row ->
            draft(row)
                .ifPresent(
                    draft ->
                        draft.triggers.add(
                            new Trigger(
                                text(row, 2),
                                text(row, 3) + " " + text(row, 4),
                                namedTables(text(row, 5), text(row, 1))))));
  }

  /** What something is, if not a table with rows of its own. */
  private static Optional<String> whatElse(String type, String engine) {
    String words = type.toLowerCase(Locale.ROOT);
    if (!words.equals("base table") && !words.equals("system versioned")) {
      return Optional.of("a " + words);
    }
    return ROWS_ELSEWHERE.contains(engine.toLowerCase(Locale.ROOT))
        ? Optional.of("a table of the engine " + engine + ", which keeps no rows of its own")
        : Optional.empty();
  }

  /** The tables of the copy that a statement names, but for one. */
  private Set<String> namedTables(String statement, String own) {
    Set<String> named = new HashSet<>();
    for (SqlTokens.Token token : SqlTokens.of(String.valueOf(statement), true)) {
      if (token.isName() && !token.text().equals(own) && drafts.containsKey(token.text())) {
        named.add(token.text());
      }
    }
    return named;
  }

  private void readColumns() throws SQLException {
    each(
        "SELECT TABLE_NAME, COLUMN_NAME, DATA_TYPE, COLUMN_TYPE, IS_NULLABLE, CHARACTER_SET_NAME,"
            + " COLLATION_NAME, NUMERIC_SCALE, EXTRA, "
            + expression()
            + " FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = ? ORDER BY TABLE_NAME, ORDINAL_POSITION",
        row -> {
          Optional<TableDraft> draft = draft(row);
          if (draft.isPresent()) {
            addColumn(draft.get(), row);
          }
        });
  }

  /** What tells the two columns of a versioned table, which no MySQL has. */
  private String expression() throws SQLException {
    boolean mariaDb = connection.getMetaData().getDatabaseProductName().equals("MariaDB");
    return mariaDb ? "GENERATION_EXPRESSION" : "''";
  }

  private static void addColumn(TableDraft draft, ResultSet row) throws SQLException {
    String name = row.getString(2);
    String extra = row.getString(9).toLowerCase(Locale.ROOT);
    String charset = row.getString(6);
    if (draft.versioned && String.valueOf(row.getString(10)).matches("ROW (START|END)")) {
      // The server keeps these two, and adds the second to every unique key.
      draft.periodColumns.add(name);
      return;
    }
    if (extra.contains("generated")) {
      draft.generated.add(name);
      return;
    }
    if (extra.contains("auto_increment")) {
      draft.auto = name;
    }
    ValueKind kind = MariaDbKinds.kind(row.getString(3).toLowerCase(Locale.ROOT), charset);
    if (row.getString(7) != null) {
      draft.collations.put(name, row.getString(7));
    }
    draft.columns.add(
        new Column(
            name,
            kind,
            row.getString(4).toLowerCase(Locale.ROOT),
            kind == ValueKind.DECIMAL ? row.getInt(8) : 0,
            row.getString(5).equals("YES"),
            false,
            extra.contains("on update")));
  }

  /** Indexes on a part of a column say nothing of whole values and are passed over. */
  private void readIndexes() throws SQLException {
    each(
        "SELECT TABLE_NAME, INDEX_NAME, COLUMN_NAME, SUB_PART FROM information_schema.STATISTICS WHERE"
            + " TABLE_SCHEMA = ? AND NON_UNIQUE = 0 ORDER BY TABLE_NAME, INDEX_NAME, SEQ_IN_INDEX",
        row -> {
          Optional<TableDraft> draft = draft(row);
          if (draft.isPresent()) {
            if (draft.get().periodColumns.contains(row.getString(3))) {
              return;
            }
            List<String> columns =
                draft.get().uniqueIndexes.computeIfAbsent(row.getString(2), k -> new ArrayList<>());
            columns.add(row.getString(4) == null ? row.getString(3) : "");
          }
        });
  }

  private void readForeignKeys() throws SQLException {
    each(
        "SELECT TABLE_NAME, CONSTRAINT_NAME, COLUMN_NAME, REFERENCED_TABLE_NAME, REFERENCED_COLUMN_NAME"
            + " FROM information_schema.KEY_COLUMN_USAGE WHERE TABLE_SCHEMA = ? AND"
            + " REFERENCED_TABLE_SCHEMA = TABLE_SCHEMA ORDER BY TABLE_NAME, CONSTRAINT_NAME,"
            + " ORDINAL_POSITION",
        row -> {
          Optional<TableDraft> draft = draft(row);
          String target = row.getString(4);
          if (draft.isPresent() && target.startsWith(spec.prefix())) {
            ForeignKeyDraft key =
                draft
                    .get()
                    .foreignKeys
                    .computeIfAbsent(
                        text(row, 2),
                        k ->
                            new ForeignKeyDraft(
                                target.substring(spec.prefix().length()),
                                new ArrayList<>(),
                                new ArrayList<>()));
            key.columns().add(row.getString(3));
            key.targets().add(row.getString(5));
          }
        });
  }

  private CatalogTable finish(String realName, TableDraft draft) {
    String name = realName.substring(spec.prefix().length());
    List<String> names = draft.columns.stream().map(Column::name).toList();
    List<Integer> key = positions(draft.uniqueIndexes.getOrDefault("PRIMARY", List.of()), names);
    List<List<Integer>> unique = new ArrayList<>();
    draft.uniqueIndexes.forEach(
        (index, columns) -> {
          List<Integer> positions = positions(columns, names);
          if (!index.equals("PRIMARY") && !positions.isEmpty()) {
            unique.add(positions);
          }
        });
    for (int i : key) {
      // Bits are compared as the number that they are: as bytes no statement would find them.
      Column column = draft.columns.get(i);
      if (column.type().startsWith("bit")) {
        draft.columns.set(i, column.as(ValueKind.WHOLE));
      }
    }
    boolean numbered = key.size() == 1 && names.get(key.get(0)).equals(draft.auto);
    List<ForeignKey> foreignKeys =
        draft.foreignKeys.values().stream()
            .map(k -> new ForeignKey(k.columns(), k.table(), k.targets()))
            .toList();
    return new CatalogTable(
        new Table(name, draft.columns, key, numbered ? key.get(0) : -1, unique, foreignKeys),
        realName,
        draft.engine,
        ROLLS_BACK.contains(draft.engine.toLowerCase(Locale.ROOT)),
        draft.collations,
        draft.generated,
        draft.versioned,
        draft.triggers,
        triggersHidden || !draft.triggers.isEmpty() || !foreignKeys.isEmpty(),
        Optional.empty());
  }

  private static List<Integer> positions(List<String> columns, List<String> names) {
    List<Integer> positions = columns.stream().map(names::indexOf).toList();
    return positions.contains(-1) ? List.of() : positions;
  }

  private String server() throws SQLException {
    String[] version = {""};
    each("SELECT VERSION() FROM DUAL WHERE ? IS NOT NULL", row -> version[0] = row.getString(1));
    return version[0].contains("MariaDB")
        ? "MariaDB " + version[0].replaceFirst("-MariaDB.*", "")
        : "MySQL " + version[0];
  }

  private Optional<TableDraft> draft(ResultSet row) throws SQLException {
    return Optional.ofNullable(drafts.get(row.getString(1)));
  }

  private static String text(ResultSet row, int column) {
    try {
      return row.getString(column);
    } catch (SQLException e) {
      throw new IllegalStateException("a column of the information schema can't be read", e);
    }
  }

  private interface RowVisitor {
    void visit(ResultSet row) throws SQLException;
  }

  private void each(String sql, RowVisitor visitor) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.setString(1, spec.database());
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          visitor.visit(rows);
        }
      }
    }
  }
}
