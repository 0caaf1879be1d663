package weftex.store.copy;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Column;

/** Tables and columns of SQLite. */
final class SqliteSchema implements SchemaWords {

  @Override
  public String ledgerOptions() {
    return "";
  }

  @Override
  public boolean escapesByBackslash() {
    return false;
  }

  @Override
  public List<String> definition(Connection connection, String realTable) throws SQLException {
    List<String> statements = new ArrayList<>();
    try (PreparedStatement statement =
        connection.prepareStatement(
            "SELECT sql FROM sqlite_master WHERE tbl_name = ? AND type IN ('table', 'index')"
                + " AND sql IS NOT NULL ORDER BY type DESC, rowid")) {
      statement.setString(1, realTable);
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          statements.add(rows.getString(1));
        }
      }
    }
    return statements;
  }

  /** A scratch table of this connection alone gives the value as the column's type makes it. */
  @Override
  public Optional<String> fill(Connection connection, TableDefinition table, Column column)
      throws SQLException {
    String name = column.name();
    boolean said = table.says(name, "DEFAULT");
    if (said && table.literalDefault(name).isEmpty() || !said && !column.nullable()) {
      return Optional.empty();
    }
    try (Statement statement = connection.createStatement()) {
      statement.execute("CREATE TEMP TABLE weftex_fill (" + table.column(name).orElseThrow() + ")");
      try {
        statement.execute("INSERT INTO temp.weftex_fill DEFAULT VALUES");
        try (ResultSet rows =
            statement.executeQuery("SELECT quote(" + quoted(name) + ") FROM temp.weftex_fill")) {
          rows.next();
          return Optional.of(rows.getString(1));
        }
      } finally {
        statement.execute("DROP TABLE temp.weftex_fill");
      }
    }
  }

  @Override
  public List<String> addColumn(
      String realTable,
      String definition,
      Optional<String> after,
      List<TableDefinition.Index> indexes,
      List<String> apart) {
    List<String> statements = new ArrayList<>();
    statements.add("ALTER TABLE " + quoted(realTable) + " ADD COLUMN " + definition);
    statements.addAll(apart);
    return statements;
  }

  @Override
  public List<String> dropColumn(String realTable, String column, List<String> indexes) {
    List<String> statements = new ArrayList<>();
    indexes.forEach(index -> statements.add("DROP INDEX IF EXISTS " + quoted(index)));
    statements.add("ALTER TABLE " + quoted(realTable) + " DROP COLUMN " + quoted(column));
    return statements;
  }

  @Override
  public String differs(String column, String literal) {
    return literal.startsWith("'")
        ? "CAST(" + quoted(column) + " AS BLOB) IS NOT CAST(" + literal + " AS BLOB)"
        : quoted(column) + " IS NOT " + literal;
  }

  @Override
  public List<String> missingRights(Connection connection, CopySpec spec) {
    return List.of();
  }

  @Override
  public void lock(Connection connection, String realTable) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("BEGIN IMMEDIATE");
    }
  }

  @Override
  public void unlock(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("COMMIT");
    }
  }
}
