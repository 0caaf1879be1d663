package weftex.store.sqlite;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.change.SchemaChange;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.IndexShape;
import weftex.core.schema.TableShape;
import weftex.store.database.CopySpec;
import weftex.store.database.Layout;
import weftex.store.database.SchemaWords;
import weftex.store.rows.RowReader;

/** Tables and columns of SQLite. */
public final class SqliteSchema implements SchemaWords {
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
  public Optional<Value> fill(Connection connection, ColumnShape shape, Column type)
      throws SQLException {
    boolean workedOut =
        shape.standard().isPresent()
            && !(shape.standard().get() instanceof ColumnShape.Standard.Literal);
    if (workedOut || shape.standard().isEmpty() && !shape.nullable()) {
      return Optional.empty();
    }
    SqliteDialect dialect = new SqliteDialect();
    Table table = new Table("fill", List.of(type), List.of(), -1, List.of(), List.of());
    try (Statement statement = connection.createStatement()) {
      statement.execute("CREATE TEMP TABLE weftex_fill (" + column(shape, null) + ")");
      try {
        statement.execute("INSERT INTO temp.weftex_fill DEFAULT VALUES");
        try (ResultSet rows =
            statement.executeQuery("SELECT " + quoted(type.name()) + " FROM temp.weftex_fill")) {
          rows.next();
          return Optional.of(
              RowReader.ofFew(new Layout(table, "fill", List.of()), dialect)
                  .readWithoutKey(rows)
                  .values()
                  .get(0));
        }
      } finally {
        statement.execute("DROP TABLE temp.weftex_fill");
      }
    }
  }

  @Override
  public String literal(String text) {
    return "'" + text.replace("'", "''") + "'";
  }

  /** A lone key that counts must be defined in its column. */
  @Override
  public String column(ColumnShape column, TableShape table) {
    StringBuilder sql = new StringBuilder(quoted(column.name()));
    sql.append(column.type().isEmpty() ? "" : " " + column.type());
    if (column.counts()) {
      return sql.append(" PRIMARY KEY AUTOINCREMENT").toString();
    }
    sql.append(column.nullable() ? "" : " NOT NULL");
    column
        .standard()
        .ifPresent(
            said ->
                sql.append(" DEFAULT ")
                    .append(
                        said instanceof ColumnShape.Standard.Literal literal
                            ? literal(literal.value(), column)
                            : now(((ColumnShape.Standard.Now) said).fraction())));
    column.collated().collation().ifPresent(name -> sql.append(" COLLATE ").append(name));
    return sql.toString();
  }

  /** SQLite's own word has no fractions; milliseconds are made as ISO 8601 writes them. */
  private static String now(int fraction) {
    return fraction == 3 ? "(strftime('" + MILLISECONDS + "', 'now'))" : "CURRENT_TIMESTAMP";
  }

  @Override
  public void index(
      String realTable,
      IndexShape index,
      TableShape table,
      List<String> elements,
      List<String> apart) {
    switch (index.kind()) {
      case PRIMARY -> {
        boolean inColumn = table.columns().stream().anyMatch(ColumnShape::counts);
        if (!inColumn) {
          elements.add("PRIMARY KEY " + parts(index));
        }
      }
      case UNIQUE -> {
        // An index of its own can't be told from one that a constraint made, and does the same.
        if (index.name().startsWith("unique_")) {
          elements.add("UNIQUE " + parts(index));
        } else {
          apart.add(index(realTable, index));
        }
      }
      default -> apart.add(index(realTable, index));
    }
  }

  private String index(String realTable, IndexShape index) {
    return "CREATE "
        + (index.kind() == IndexShape.Kind.UNIQUE ? "UNIQUE " : "")
        + "INDEX "
        + quoted(index.name())
        + " ON "
        + quoted(realTable)
        + " "
        + parts(index);
  }

  @Override
  public String options(TableShape shape) {
    return shape.options().withoutRowNumber() ? " WITHOUT ROWID" : "";
  }

  @Override
  public List<String> addColumn(String realTable, SchemaChange.Made.NewColumn column) {
    List<String> statements = new ArrayList<>();
    statements.add(
        "ALTER TABLE " + quoted(realTable) + " ADD COLUMN " + column(column.shape(), null));
    column.indexes().forEach(index -> statements.add(index(realTable, index)));
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
