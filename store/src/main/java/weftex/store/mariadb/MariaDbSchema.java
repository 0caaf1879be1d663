package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
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

/** Tables and columns of MariaDB and MySQL. */
public final class MariaDbSchema implements SchemaWords {
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
  public Optional<Value> fill(Connection connection, ColumnShape shape, Column type)
      throws SQLException {
    Optional<String> literal = filling(shape, type);
    if (literal.isEmpty()) {
      return Optional.empty();
    }
    // The server says what the literal is as a value of this type.
    MariaDbDialect dialect = new MariaDbDialect();
    Table table = new Table("fill", List.of(type), List.of(), -1, List.of(), List.of());
    String sql =
        "SELECT "
            + dialect.readExpression(type)
            + " FROM (SELECT "
            + literal.get()
            + " AS "
            + quoted(type.name())
            + ") t";
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      rows.next();
      return Optional.of(
          RowReader.ofFew(new Layout(table, "fill", List.of()), dialect)
              .readWithoutKey(rows)
              .values()
              .get(0));
    }
  }

  private Optional<String> filling(ColumnShape shape, Column type) {
    if (shape.standard().isPresent()) {
      return shape.standard().get() instanceof ColumnShape.Standard.Literal said
          ? Optional.of(literal(said.value(), shape))
          : Optional.empty();
    }
    if (shape.nullable()) {
      return Optional.of("NULL");
    }
    return switch (type.kind()) {
      case WHOLE, DECIMAL, FLOATING -> Optional.of("0");
      case TEXT -> emptyText(shape);
      case BINARY, ANY ->
          type.type().matches("varbinary.*|.*blob") ? Optional.of("''") : Optional.empty();
    };
  }

  /** What the server takes where a column allows no NULL and says nothing else. */
  private Optional<String> emptyText(ColumnShape shape) {
    if (shape.type().startsWith("enum") && !shape.values().isEmpty()) {
      return Optional.of(literal(shape.values().get(0)));
    }
    boolean text = shape.type().matches("(var)?char.*|(tiny|medium|long)?text|set.*");
    return text && !shape.isJson() ? Optional.of("''") : Optional.empty();
  }

  @Override
  public String literal(String text) {
    return "'" + text.replace("\\", "\\\\").replace("'", "''").replace("\0", "\\0") + "'";
  }

  @Override
  public String column(ColumnShape column, TableShape table) {
    StringBuilder sql = new StringBuilder(quoted(column.name())).append(' ').append(column.type());
    if (!column.values().isEmpty()) {
      sql.append('(')
          .append(String.join(",", column.values().stream().map(this::literal).toList()))
          .append(')');
    }
    column.collated().charset().ifPresent(name -> sql.append(" CHARACTER SET ").append(name));
    column.collated().collation().ifPresent(name -> sql.append(" COLLATE ").append(name));
    sql.append(column.nullable() ? " NULL" : " NOT NULL");
    column
        .standard()
        .ifPresent(
            said ->
                sql.append(" DEFAULT ")
                    .append(
                        said instanceof ColumnShape.Standard.Literal literal
                            ? literal(literal.value(), column)
                            : now(((ColumnShape.Standard.Now) said).fraction())));
    sql.append(column.counts() ? " AUTO_INCREMENT" : "");
    column.touched().ifPresent(fraction -> sql.append(" ON UPDATE ").append(now(fraction)));
    if (!column.comment().isEmpty()) {
      sql.append(" COMMENT ").append(literal(column.comment()));
    }
    if (column.isJson()) {
      sql.append(" CHECK (json_valid(").append(quoted(column.name())).append("))");
    }
    return sql.toString();
  }

  private static String now(int fraction) {
    return "current_timestamp(" + (fraction > 0 ? fraction : "") + ")";
  }

  @Override
  public void index(
      String realTable,
      IndexShape index,
      TableShape table,
      List<String> elements,
      List<String> apart) {
    elements.add(index(index));
  }

  private String index(IndexShape index) {
    String words =
        switch (index.kind()) {
          case PRIMARY -> "PRIMARY KEY";
          case UNIQUE -> "UNIQUE KEY " + quoted(index.name());
          case PLAIN -> "KEY " + quoted(index.name());
          case FULLTEXT -> "FULLTEXT KEY " + quoted(index.name());
          case SPATIAL -> "SPATIAL KEY " + quoted(index.name());
        };
    return words + " " + parts(index);
  }

  @Override
  public String options(TableShape shape) {
    StringBuilder sql = new StringBuilder();
    shape.options().engine().ifPresent(name -> sql.append(" ENGINE=").append(name));
    shape
        .options()
        .collated()
        .charset()
        .ifPresent(name -> sql.append(" DEFAULT CHARSET=").append(name));
    shape.options().collated().collation().ifPresent(name -> sql.append(" COLLATE=").append(name));
    shape.options().rowFormat().ifPresent(name -> sql.append(" ROW_FORMAT=").append(name));
    if (!shape.options().comment().isEmpty()) {
      sql.append(" COMMENT=").append(literal(shape.options().comment()));
    }
    return sql.append(shape.options().versioned() ? " WITH SYSTEM VERSIONING" : "").toString();
  }

  @Override
  public List<String> addColumn(String realTable, SchemaChange.Made.NewColumn column) {
    StringBuilder sql =
        new StringBuilder("ALTER TABLE " + quoted(realTable) + " ADD COLUMN ")
            .append(column(column.shape(), null));
    column.after().ifPresent(before -> sql.append(" AFTER ").append(quoted(before)));
    column.indexes().forEach(index -> sql.append(", ADD ").append(index(index)));
    return List.of(sql.toString());
  }

  @Override
  public List<String> dropColumn(String realTable, String column, List<String> indexes) {
    StringBuilder sql = new StringBuilder("ALTER TABLE " + quoted(realTable));
    indexes.forEach(index -> sql.append(" DROP INDEX ").append(quoted(index)).append(','));
    return List.of(sql.append(" DROP COLUMN ").append(quoted(column)).toString());
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
