package weftex.store.copy;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Column;

/** Tables and columns of MariaDB and MySQL. */
final class MariaDbSchema implements SchemaWords {
  /** A statement that waits longer holds up everybody who comes after it. */
  private static final int LOCK_SECONDS = 20;

  @Override
  public String ledgerOptions() {
    return " ENGINE=InnoDB DEFAULT CHARSET=utf8mb4";
  }

  @Override
  public boolean escapesByBackslash() {
    return true;
  }

  @Override
  public List<String> definition(Connection connection, String realTable) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SHOW CREATE TABLE " + quoted(realTable))) {
      rows.next();
      return List.of(rows.getString(2));
    }
  }

  @Override
  public Optional<String> fill(Connection connection, TableDefinition table, Column column) {
    String name = column.name();
    if (table.says(name, "DEFAULT")) {
      return table.literalDefault(name);
    }
    if (column.nullable()) {
      return Optional.of("NULL");
    }
    return switch (column.kind()) {
      case WHOLE, DECIMAL, FLOATING -> Optional.of("0");
      case TEXT -> emptyText(column.type(), table.says(name, "CHECK"));
      case BINARY, ANY ->
          column.type().matches("varbinary.*|.*blob") ? Optional.of("''") : Optional.empty();
    };
  }

  /** What the server takes where a column allows no NULL and says nothing else. */
  private static Optional<String> emptyText(String type, boolean checked) {
    if (type.matches("(var)?char.*|(tiny|medium|long)?text|set.*")) {
      return checked ? Optional.empty() : Optional.of("''");
    }
    if (type.startsWith("enum('")) {
      return Optional.of(SqlTokens.of(type, true).get(2).text());
    }
    return Optional.empty();
  }

  @Override
  public List<String> addColumn(
      String realTable,
      String definition,
      Optional<String> after,
      List<TableDefinition.Index> indexes,
      List<String> apart) {
    StringBuilder sql =
        new StringBuilder("ALTER TABLE " + quoted(realTable) + " ADD COLUMN " + definition);
    after.ifPresent(column -> sql.append(" AFTER ").append(quoted(column)));
    indexes.forEach(index -> sql.append(", ADD ").append(index.text()));
    return List.of(sql.toString());
  }

  @Override
  public List<String> dropColumn(String realTable, String column, List<String> indexes) {
    StringBuilder sql = new StringBuilder("ALTER TABLE " + quoted(realTable));
    indexes.forEach(index -> sql.append(" DROP INDEX ").append(quoted(index)).append(','));
    return List.of(sql.append(" DROP COLUMN ").append(quoted(column)).toString());
  }

  @Override
  public String differs(String column, String literal) {
    // A collation would find values equal that are not.
    return literal.startsWith("'")
        ? "NOT (BINARY " + quoted(column) + " <=> BINARY " + literal + ")"
        : "NOT (" + quoted(column) + " <=> " + literal + ")";
  }

  @Override
  public List<String> missingRights(Connection connection, CopySpec spec) throws SQLException {
    return MariaDbRights.missing(connection, (CopySpec.Server) spec, MariaDbRights.SCHEMA);
  }

  @Override
  public void lock(Connection connection, String realTable) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("SET SESSION lock_wait_timeout = " + LOCK_SECONDS);
      if (!realTable.isEmpty()) {
        statement.execute("LOCK TABLES " + quoted(realTable) + " WRITE");
      }
    }
  }

  @Override
  public void unlock(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("UNLOCK TABLES");
    }
  }
}
