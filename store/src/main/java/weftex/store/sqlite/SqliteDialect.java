package weftex.store.sqlite;

import java.io.IOException;
import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Types;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import java.util.concurrent.TimeUnit;
import weftex.core.row.Column;
import weftex.core.row.RowPacking;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.database.Dialect;
import weftex.store.database.KeyPart;
import weftex.store.database.Layout;
import weftex.store.database.SchemaWords;
import weftex.store.state.FileClaim;

/** SQLite, whose columns hold what each row puts there. */
public final class SqliteDialect implements Dialect {
  private static final int CONSTRAINT = 19;
  private static final int CLAIM_RETRY_MS = 50;

  @Override
  public boolean isFor(CopySpec spec) {
    return spec instanceof CopySpec.SqliteFile;
  }

  @Override
  public Connection open(CopySpec copy) throws Refusal {
    CopySpec.SqliteFile spec = (CopySpec.SqliteFile) copy;
    if (!Files.isRegularFile(spec.file())) {
      throw Connecting.refusal(
          spec,
          "there is no file " + spec.file(),
          "Correct 'file' of " + spec.name() + " in weftex.yaml.",
          null);
    }
    try {
      Properties options = new Properties();
      options.setProperty("busy_timeout", "10000");
      Connection connection = DriverManager.getConnection("jdbc:sqlite:" + spec.file(), options);
      try (Statement statement = connection.createStatement()) {
        statement.executeQuery("SELECT COUNT(*) FROM sqlite_master").close();
      }
      return connection;
    } catch (SQLException e) {
      throw Connecting.refusal(
          spec,
          spec.file() + " is not an SQLite database, or can't be read: " + FailureWords.of(e),
          "Correct 'file' of " + spec.name() + " in weftex.yaml.",
          e);
    }
  }

  @Override
  public String line(Connection connection, CopySpec spec) {
    return "a file on this machine";
  }

  @Override
  public boolean isStrict() {
    return false;
  }

  @Override
  public SchemaWords schema() {
    return new SqliteSchema();
  }

  @Override
  public Catalog catalog(Connection connection, CopySpec spec) throws SQLException {
    return new SqliteCatalog(connection, spec.prefix()).read();
  }

  @Override
  public void beginSnapshot(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("BEGIN");
      // A deferred transaction takes its snapshot at the first read.
      statement.executeQuery("SELECT COUNT(*) FROM sqlite_master").close();
    }
  }

  /** A file beside the database, since a lock on the database itself would disturb its own. */
  @Override
  public Optional<AutoCloseable> claim(Connection connection, CopySpec spec, int seconds)
      throws SQLException {
    Path file = ((CopySpec.SqliteFile) spec).file().toAbsolutePath();
    Path beside = file.resolveSibling(file.getFileName() + "-weftex");
    long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(seconds);
    try {
      while (true) {
        FileClaim.Attempt attempt = FileClaim.attempt(beside, "a run of Weftex");
        if (attempt.claim().isPresent()) {
          return Optional.of(attempt.claim().get());
        }
        if (attempt.holder().isEmpty()) {
          throw new SQLException("no file can be made in " + file.getParent());
        }
        if (System.nanoTime() >= until) {
          return Optional.empty();
        }
        TimeUnit.MILLISECONDS.sleep(CLAIM_RETRY_MS);
      }
    } catch (IOException e) {
      throw new SQLException(FailureWords.of(e), e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return Optional.empty();
    }
  }

  @Override
  public void beginWriting(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA foreign_keys = ON");
      statement.execute("BEGIN IMMEDIATE");
    }
  }

  @Override
  public String readExpression(Column column) {
    return quote(column.name());
  }

  @Override
  public String keyExpression(Column column, KeyPart part) {
    String name = quote(column.name());
    return switch (part.detail()) {
      case "NOCASE" -> "CAST(lower(" + name + ") AS BLOB)";
      case "RTRIM" -> "CAST(rtrim(" + name + ") AS BLOB)";
      default -> "CAST(" + name + " AS BLOB)";
    };
  }

  @Override
  public Optional<String> rangeDigests(Layout layout, long width) {
    return Optional.empty();
  }

  @Override
  public boolean isMissingFunction(SQLException failure) {
    return false;
  }

  @Override
  public Optional<String> sha256Expression(Column column, boolean utf8) {
    return Optional.empty();
  }

  @Override
  public CellReader cellReader(Column column) {
    return (rows, index, sink) -> read(rows, index, column, sink);
  }

  private static void read(ResultSet rows, int index, Column column, RowPacking.Sink sink)
      throws SQLException {
    Object value = rows.getObject(index);
    if (value == null) {
      sink.putNull();
    } else if (value instanceof String text) {
      byte[] utf8 = rows.getBytes(index);
      SqliteForms.putText(sink, column, text, utf8);
    } else if (value instanceof byte[] bytes) {
      sink.putBytes(column.kind() == ValueKind.TEXT ? RowPacking.TEXT : RowPacking.BINARY, bytes);
    } else if (value instanceof Number number) {
      SqliteForms.putNumber(sink, column, number);
    } else {
      throw new SQLException("unexpected value of " + value.getClass());
    }
  }

  @Override
  public void bind(PreparedStatement statement, int index, Column column, Value value)
      throws SQLException {
    if (value.isNull()) {
      statement.setNull(index, Types.NULL);
    } else if (value instanceof Value.Whole whole) {
      if (whole.number().bitLength() < Long.SIZE) {
        statement.setLong(index, whole.number().longValue());
      } else {
        statement.setString(index, whole.display());
      }
    } else if (value instanceof Value.Decimal decimal) {
      if (column.kind() == ValueKind.DECIMAL) {
        statement.setString(index, decimal.digits());
      } else {
        statement.setDouble(index, Double.parseDouble(decimal.digits()));
      }
    } else if (value instanceof Value.Text text) {
      if (!text.isWellFormed()) {
        throw new SQLException(
            "column " + column.name() + " holds text that is not UTF-8, which SQLite can't take");
      }
      statement.setString(index, text.display());
    } else if (value instanceof Value.Binary binary) {
      statement.setBytes(index, binary.bytes());
    } else {
      throw new IllegalArgumentException("can't be bound: " + value);
    }
  }

  @Override
  public String lockClause() {
    return "";
  }

  @Override
  public String deleteOne(String table, String condition) {
    String name = quote(table);
    return "DELETE FROM "
        + name
        + " WHERE rowid IN (SELECT rowid FROM "
        + name
        + " WHERE "
        + condition
        + " LIMIT 1)";
  }

  @Override
  public String nullSafeEquals() {
    return "IS";
  }

  @Override
  public BigInteger nextNumber(Connection connection, String realTable, String column)
      throws SQLException {
    BigInteger next = BigInteger.ONE;
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery(
                "SELECT COALESCE(MAX(" + quote(column) + "), 0) + 1 FROM " + quote(realTable))) {
      rows.next();
      next = next.max(new BigInteger(rows.getString(1)));
    }
    if (!hasSequences(connection)) {
      return next;
    }
    try (PreparedStatement statement =
        connection.prepareStatement("SELECT seq + 1 FROM sqlite_sequence WHERE name = ?")) {
      statement.setString(1, realTable);
      try (ResultSet rows = statement.executeQuery()) {
        return rows.next() ? next.max(new BigInteger(rows.getString(1))) : next;
      }
    }
  }

  private static boolean hasSequences(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SELECT 1 FROM sqlite_master WHERE name = 'sqlite_sequence'")) {
      return rows.next();
    }
  }

  @Override
  public boolean isDuplicate(SQLException failure) {
    String message = String.valueOf(failure.getMessage());
    return (failure.getErrorCode() & 0xFF) == CONSTRAINT
        && (message.contains("UNIQUE") || message.contains("PRIMARY KEY"));
  }

  @Override
  public KeyPart keyPart(Connection connection, CatalogTable table, Column column) {
    if (column.kind() == ValueKind.WHOLE) {
      return KeyPart.NUMBER;
    }
    String collation = table.collations().getOrDefault(column.name(), "BINARY");
    return collation.equals("BINARY")
        ? KeyPart.BYTES
        : new KeyPart(KeyPart.Style.SERVER, collation);
  }

  @Override
  public List<String> missingRights(Connection connection, CopySpec spec, boolean writing) {
    java.nio.file.Path file = ((CopySpec.SqliteFile) spec).file();
    return writing && !java.nio.file.Files.isWritable(file) ? List.of("write") : List.of();
  }
}
