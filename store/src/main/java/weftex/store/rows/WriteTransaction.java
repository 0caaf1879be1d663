package weftex.store.rows;

import java.math.BigInteger;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.database.Catalog;
import weftex.store.database.CopySpec;
import weftex.store.database.Dialect;
import weftex.store.database.Layout;
import weftex.store.database.WriteTable;

/**
 * The one transaction in which a copy is written, in the connection of a claim. Closing it without
 * {@link #commit} undoes everything.
 */
public final class WriteTransaction implements AutoCloseable {
  private final Connection connection;
  private final Dialect dialect;
  private final Ledger ledger;
  private final BatchWriter writer;
  private boolean committed;

  public WriteTransaction(Connection connection, Dialect dialect, CopySpec spec)
      throws SQLException {
    this.connection = connection;
    this.dialect = dialect;
    this.ledger = new Ledger(connection, dialect, spec.prefix() + Catalog.LEDGER);
    this.writer = new BatchWriter(connection, dialect);
    // The server commits a CREATE TABLE by itself, so it stands before the transaction.
    ledger.create();
    dialect.beginWriting(connection);
  }

  /** Says that tables are written whose engine can't roll back. */
  public void writesWhatCantRollBack() {
    writer.sendAlone();
  }

  /** The record of what was applied, in this very transaction. */
  public Ledger ledger() {
    return ledger;
  }

  /** Reads what follows from rows, in this very transaction. */
  public DerivedValues derived() {
    return new DerivedValues(connection, dialect);
  }

  /**
   * Locks rows and reads them.
   *
   * @param keys values of the key's columns
   * @return whole rows by their own key values; a row that is not there is missing. A key that the
   *     server finds equal though it is written differently comes back as it is written
   */
  public Map<List<Value>, List<Value>> lock(WriteTable table, Collection<List<Value>> keys)
      throws SQLException {
    return lock(table, keys, Long.MAX_VALUE);
  }

  /**
   * Locks rows and reads them, but lets the server send the digest of a long value instead of the
   * value, if it can.
   *
   * @param wholeUpTo bytes up to which a value is read whole
   */
  public Map<List<Value>, List<Value>> lock(
      WriteTable table, Collection<List<Value>> keys, long wholeUpTo) throws SQLException {
    Map<List<Value>, List<Value>> found = new HashMap<>();
    if (keys.isEmpty()) {
      return found;
    }
    Table shape = table.table();
    Layout layout = new Layout(shape, table.realName(), List.of());
    List<String> conditions = new ArrayList<>();
    boolean single = shape.key().size() == 1;
    for (List<Value> ignored : keys) {
      conditions.add(
          single
              ? dialect.placeholder(shape.columns().get(shape.key().get(0)))
              : "(" + equal(shape, shape.key()) + ")");
    }
    String where =
        single
            ? dialect.quote(shape.columns().get(shape.key().get(0)).name())
                + " IN ("
                + String.join(", ", conditions)
                + ")"
            : String.join(" OR ", conditions);
    DigestedColumns digested = new DigestedColumns(table, dialect, wholeUpTo);
    String sql = digested.select() + " WHERE " + where + dialect.lockClause();
    readLocked(keys, found, shape, layout, digested, sql);
    return found;
  }

  private void readLocked(
      Collection<List<Value>> keys,
      Map<List<Value>, List<Value>> found,
      Table shape,
      Layout layout,
      DigestedColumns digested,
      String sql)
      throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      int index = 1;
      for (List<Value> key : keys) {
        for (int i = 0; i < key.size(); i++) {
          dialect.bind(statement, index++, shape.columns().get(shape.key().get(i)), key.get(i));
        }
      }
      try (ResultSet rows = statement.executeQuery()) {
        RowReader reader = RowReader.ofFew(layout, dialect);
        while (rows.next()) {
          Row row = reader.readWithoutKey(rows);
          List<Value> values = digested.values(row, rows);
          found.put(Table.pick(values, shape.key()), values);
        }
      }
    }
  }

  /** Which of some numbers are taken; the free ones stay free until the end of the transaction. */
  public Set<BigInteger> taken(WriteTable table, List<BigInteger> numbers) throws SQLException {
    Set<BigInteger> taken = new HashSet<>();
    List<List<Value>> keys =
        numbers.stream().map(number -> List.<Value>of(new Value.Whole(number))).toList();
    for (List<Value> key : lock(table, keys).keySet()) {
      taken.add(((Value.Whole) key.get(0)).number());
    }
    return taken;
  }

  /**
   * A number above all that a table has had; nobody else gets it or a higher one before the end.
   */
  public BigInteger nextNumber(WriteTable table) throws SQLException {
    return dialect.nextNumber(
        connection, table.realName(), table.table().columns().get(table.table().number()).name());
  }

  /** Locks and reads whole rows with some values, in no order. */
  public List<List<Value>> find(WriteTable table, List<Integer> columns, List<Value> values)
      throws SQLException {
    Layout layout = new Layout(table.table(), table.realName(), List.of());
    String sql =
        new DigestedColumns(table, dialect, Long.MAX_VALUE).select()
            + " WHERE "
            + equal(table.table(), columns)
            + dialect.lockClause();
    List<List<Value>> found = new ArrayList<>();
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      for (int i = 0; i < columns.size(); i++) {
        dialect.bind(statement, i + 1, table.table().columns().get(columns.get(i)), values.get(i));
      }
      try (ResultSet rows = statement.executeQuery()) {
        RowReader reader = RowReader.ofFew(layout, dialect);
        while (rows.next()) {
          found.add(reader.readWithoutKey(rows).values());
        }
      }
    }
    return found;
  }

  /** Counts and locks the rows with some values. */
  public long count(WriteTable table, List<Integer> columns, List<Value> values)
      throws SQLException {
    String sql =
        "SELECT COUNT(*) FROM "
            + dialect.quote(table.realName())
            + " WHERE "
            + equal(table.table(), columns)
            + dialect.lockClause();
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      for (int i = 0; i < columns.size(); i++) {
        dialect.bind(statement, i + 1, table.table().columns().get(columns.get(i)), values.get(i));
      }
      try (ResultSet rows = statement.executeQuery()) {
        rows.next();
        return rows.getLong(1);
      }
    }
  }

  private String equal(Table table, List<Integer> columns) {
    List<String> conditions = new ArrayList<>();
    for (int i : columns) {
      Column column = table.columns().get(i);
      conditions.add(dialect.quote(column.name()) + " = " + dialect.placeholder(column));
    }
    return String.join(" AND ", conditions);
  }

  /** Adds a row, at the latest at the next {@link #flush}. */
  public void insert(WriteTable table, Map<String, Value> values) throws SQLException {
    writer.insert(table, values);
  }

  /** Updates a row, at the latest at the next {@link #flush}. */
  public void update(WriteTable table, List<Value> key, Map<String, Value> values)
      throws SQLException {
    writer.update(table, key, values);
  }

  /** Removes a row, at the latest at the next {@link #flush}. */
  public void delete(WriteTable table, List<Value> key) throws SQLException {
    writer.delete(table, key);
  }

  /**
   * Removes one row of a table without a key, at once; false if there is none with these values.
   */
  public boolean deleteOne(WriteTable table, Map<String, Value> values) throws SQLException {
    flush();
    List<String> conditions = new ArrayList<>();
    List<Column> columns = new ArrayList<>();
    for (String name : values.keySet()) {
      Column column = table.table().columns().get(table.table().position(name).orElseThrow());
      columns.add(column);
      conditions.add(ExactValue.condition(dialect, column));
    }
    String sql = dialect.deleteOne(table.realName(), String.join(" AND ", conditions));
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      int index = 1;
      for (Column column : columns) {
        ExactValue.bind(dialect, statement, index++, column, values.get(column.name()));
      }
      return statement.executeUpdate() == 1;
    }
  }

  /**
   * Sends everything that waits.
   *
   * @return if a unique value is taken and stays taken: what the server said of it
   */
  public Optional<String> flush() throws SQLException {
    return writer.flush();
  }

  /** Makes everything permanent. */
  public void commit() throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("COMMIT");
    }
    committed = true;
  }

  @Override
  public void close() {
    if (committed) {
      return;
    }
    try (Statement statement = connection.createStatement()) {
      statement.execute("ROLLBACK");
    } catch (SQLException e) {
      // A server that can't be told rolls back by itself when the connection is gone.
    }
  }
}
