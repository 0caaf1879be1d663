package weftex.store.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.ServiceLoader;
import weftex.core.row.Column;
import weftex.core.row.RowPacking;
import weftex.core.row.Value;
import weftex.store.Refusal;

/**
 * What differs from one kind of database to the next. Each kind has a room of its own and a line in
 * {@code META-INF/services}; nobody else knows it by name.
 */
public interface Dialect {

  /** A new one for a copy. */
  static Dialect of(CopySpec spec) {
    return ServiceLoader.load(Dialect.class, Dialect.class.getClassLoader()).stream()
        .map(ServiceLoader.Provider::get)
        .filter(dialect -> dialect.isFor(spec))
        .findFirst()
        .orElseThrow(() -> new IllegalStateException("no kind of database for " + spec.place()));
  }

  /** Whether a copy is of this kind. */
  boolean isFor(CopySpec spec);

  /**
   * Opens a connection, with the session set up.
   *
   * @throws Refusal with a sentence of its own for each thing that may stand in the way
   */
  Connection open(CopySpec spec) throws Refusal;

  /** What protects the line to a copy, in words. */
  String line(Connection connection, CopySpec spec) throws SQLException;

  /** Whether columns hold only what their type says. */
  boolean isStrict();

  /** A name as the server wants it written. */
  default String quote(String name) {
    return schema().quoted(name);
  }

  /** How tables and columns are made and taken away. */
  SchemaWords schema();

  /** Everything that is in the copy under its prefix. */
  Catalog catalog(Connection connection, CopySpec spec) throws SQLException;

  /**
   * About how many rows the tables of a copy have; empty if this database doesn't know it at once.
   */
  default OptionalLong roughRows(Connection connection, CopySpec spec) throws SQLException {
    return OptionalLong.empty();
  }

  /** Begins to read one consistent state. */
  void beginSnapshot(Connection connection) throws SQLException;

  /**
   * Claims a copy for the run that this connection belongs to, as long as that lives.
   *
   * @param seconds how long to wait for another run
   * @return what lets go of it; empty if another run has it
   */
  Optional<AutoCloseable> claim(Connection connection, CopySpec spec, int seconds)
      throws SQLException;

  /** Begins a transaction that writes. */
  void beginWriting(Connection connection) throws SQLException;

  /** The expression that reads a column. */
  String readExpression(Column column);

  /**
   * The expression of {@code SHA-256 in hexadecimal, space, length} of a text or binary column's
   * bytes; empty if this database can't compute it.
   *
   * @param utf8 whether text is stored as UTF-8, so that it need not be converted
   */
  Optional<String> sha256Expression(Column column, boolean utf8);

  /** The expression by whose bytes a key column is ordered; not asked for numbers. */
  String keyExpression(Column column, KeyPart part);

  /** How the cells of a column are read; asked for once a query, not once a row. */
  CellReader cellReader(Column column);

  /**
   * The query of a table's digests by ranges of keys: the range, how many rows it has, and the
   * exclusive or of their {@code RowDigest}s, an unsigned number; empty if this database can't
   * compute it.
   *
   * @param width how many keys a range spans
   */
  Optional<String> rangeDigests(Layout layout, long width);

  /** Whether a failure says that the server lacks a function which it should have. */
  boolean isMissingFunction(SQLException failure);

  /** Reads one cell of the current row and puts it into a sink. */
  interface CellReader {
    void read(ResultSet rows, int index, RowPacking.Sink sink) throws SQLException;
  }

  /** Binds a value for a column. */
  void bind(PreparedStatement statement, int index, Column column, Value value) throws SQLException;

  /** The placeholder for a value of a column. */
  default String placeholder(Column column) {
    return "?";
  }

  /** What makes a SELECT lock the rows that it reads; empty if the transaction locks everything. */
  String lockClause();

  /** What limits a DELETE to one row of a table without a key. */
  String deleteOne(String table, String condition);

  /** The operator by which NULL equals NULL. */
  String nullSafeEquals();

  /** The lowest number that no row of a table has had, as far as the server knows. */
  java.math.BigInteger nextNumber(Connection connection, String realTable, String column)
      throws SQLException;

  /** Whether a failure says that a unique value is taken. */
  boolean isDuplicate(SQLException failure);

  /** Whether a failure says that the server takes such statements one by one, not many at once. */
  default boolean isBatchRefused(SQLException failure) {
    return false;
  }

  /** How the key of a column is ordered where both copies are of this kind. */
  KeyPart keyPart(Connection connection, CatalogTable table, Column column) throws SQLException;

  /** Rights that reading, or writing too, needs and the user lacks. */
  List<String> missingRights(Connection connection, CopySpec spec, boolean writing)
      throws SQLException;
}
