package weftex.store.rows;

import java.io.IOException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import weftex.core.compare.KeyRange;
import weftex.core.compare.RangeDigests;
import weftex.core.compare.RangedSide;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Counter;
import weftex.core.site.TableModel;
import weftex.store.FailureWords;
import weftex.store.database.Dialect;
import weftex.store.database.Layout;

/**
 * One consistent state of a copy, read through one connection: its rows in order, and single rows
 * by value.
 */
public final class Snapshot implements RangedSide, RowFinder, AutoCloseable {
  private static final int FETCH_SIZE = 256;
  private static final int RANGES_AT_ONCE = 100;

  private final Connection connection;
  private final Dialect dialect;
  private final String copy;
  private final Predicate<Layout> plainText;
  private final Map<String, Layout> layouts = new HashMap<>();
  private final Map<String, PreparedStatement> statements = new HashMap<>();

  /**
   * @param plainText whether all texts of a layout are stored in Unicode
   */
  public Snapshot(
      Connection connection,
      Dialect dialect,
      String copy,
      List<Layout> layouts,
      Predicate<Layout> plainText)
      throws SQLException {
    this.connection = connection;
    this.dialect = dialect;
    this.copy = copy;
    this.plainText = plainText;
    layouts.forEach(layout -> this.layouts.put(layout.table().name(), layout));
    dialect.beginSnapshot(connection);
  }

  @Override
  public RowStream open(Table table) throws IOException {
    Layout layout = layouts.get(table.name());
    return stream(layout, layout.select(dialect) + layout.orderBy(dialect));
  }

  @Override
  public RowStream open(Table table, List<KeyRange> ranges) throws IOException {
    Layout layout = layouts.get(table.name());
    String key = dialect.quote(table.columns().get(table.key().get(0)).name());
    List<RowOpener> parts = new ArrayList<>();
    for (int i = 0; i < ranges.size(); i += RANGES_AT_ONCE) {
      List<String> conditions = new ArrayList<>();
      for (KeyRange range : ranges.subList(i, Math.min(ranges.size(), i + RANGES_AT_ONCE))) {
        conditions.add(key + " BETWEEN " + range.first() + " AND " + range.last());
      }
      String sql =
          layout.select(dialect)
              + " WHERE "
              + String.join(" OR ", conditions)
              + layout.orderBy(dialect);
      parts.add(() -> rows(layout, sql));
    }
    return new PrefetchedRows(new ChainedRows(parts), "read " + place(layout));
  }

  /** Opens one part of a stream. */
  interface RowOpener {
    RowStream open() throws IOException;
  }

  private RowStream stream(Layout layout, String sql) throws IOException {
    return new PrefetchedRows(rows(layout, sql), "read " + place(layout));
  }

  private RowStream rows(Layout layout, String sql) throws IOException {
    try {
      PreparedStatement statement = connection.prepareStatement(sql);
      statement.setFetchSize(FETCH_SIZE);
      return new JdbcRowStream(
          statement, new RowReader(layout, dialect), place(layout), layout.table().hasKey());
    } catch (SQLException e) {
      throw new IOException("reading " + place(layout) + " failed: " + FailureWords.of(e), e);
    }
  }

  private String place(Layout layout) {
    return layout.realName() + " on " + copy;
  }

  /** A server that can't compute them, for want of a function, has none. */
  @Override
  public Optional<RangeDigests> digests(Table table, long width) throws IOException {
    Layout layout = layouts.get(table.name());
    if (layout.rows().isPresent() || !RowDigest.isPossible(layout) || !plainText.test(layout)) {
      return Optional.empty();
    }
    String key = dialect.quote(table.columns().get(table.key().get(0)).name());
    Optional<String> query =
        fitsRanges(layout, key) ? dialect.rangeDigests(layout, width) : Optional.empty();
    if (query.isEmpty()) {
      return Optional.empty();
    }
    RangeDigests digests = new RangeDigests(width);
    try (PreparedStatement statement = connection.prepareStatement(query.get());
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        digests.add(rows.getLong(1), rows.getLong(2), Long.parseUnsignedLong(rows.getString(3)));
      }
      return Optional.of(digests);
    } catch (SQLException e) {
      if (dialect.isMissingFunction(e)) {
        return Optional.empty();
      }
      throw new IOException("reading " + place(layout) + " failed: " + FailureWords.of(e), e);
    }
  }

  /** Negative and very large keys are not worth a rule of their own. */
  private boolean fitsRanges(Layout layout, String key) throws IOException {
    String sql =
        "SELECT COALESCE(MIN("
            + key
            + ") >= 0 AND MAX("
            + key
            + ") < "
            + Long.MAX_VALUE / 2
            + ", 1) FROM "
            + dialect.quote(layout.realName());
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet rows = statement.executeQuery()) {
      return rows.next() && rows.getInt(1) == 1;
    } catch (SQLException e) {
      throw failed(layout, e);
    }
  }

  @Override
  public List<Row> find(Table table, List<Integer> columns, List<Value> values, int limit)
      throws IOException {
    Layout layout = layouts.get(table.name());
    String sql = layout.select(dialect) + where(table, columns) + " LIMIT " + limit;
    try (ResultSet rows = query(sql, table, columns, values)) {
      RowReader reader = RowReader.ofFew(layout, dialect);
      List<Row> found = new ArrayList<>();
      while (rows.next()) {
        found.add(reader.read(rows));
      }
      return found;
    } catch (SQLException e) {
      throw failed(layout, e);
    }
  }

  /**
   * Rows in which a text stands in one of some columns, as the server finds it: it may overlook
   * case, and so find more.
   *
   * @param limit at most so many
   */
  public List<Row> mentioning(Table table, List<Integer> columns, String text, int limit)
      throws IOException {
    if (columns.isEmpty()) {
      return List.of();
    }
    Layout layout = layouts.get(table.name());
    List<String> conditions = new ArrayList<>();
    for (int column : columns) {
      conditions.add("INSTR(" + dialect.quote(table.columns().get(column).name()) + ", ?) > 0");
    }
    String sql =
        layout.select(dialect) + " WHERE " + String.join(" OR ", conditions) + " LIMIT " + limit;
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      for (int i = 0; i < columns.size(); i++) {
        statement.setString(i + 1, text);
      }
      try (ResultSet rows = statement.executeQuery()) {
        RowReader reader = RowReader.ofFew(layout, dialect);
        List<Row> found = new ArrayList<>();
        while (rows.next()) {
          found.add(reader.read(rows));
        }
        return found;
      }
    } catch (SQLException e) {
      throw failed(layout, e);
    }
  }

  @Override
  public long count(Table table, List<Integer> columns, List<Value> values) throws IOException {
    Layout layout = layouts.get(table.name());
    String sql = "SELECT COUNT(*) FROM " + layout.from(dialect) + where(table, columns);
    try (ResultSet rows = query(sql, table, columns, values)) {
      rows.next();
      return rows.getLong(1);
    } catch (SQLException e) {
      throw failed(layout, e);
    }
  }

  /** Finds the rows in which a counter does not hold what there is to count. */
  public void offCounters(TableModel model, Counter counter, DerivedValues.CounterSink sink)
      throws IOException {
    Layout own = layouts.get(model.table().name());
    try {
      new DerivedValues(connection, dialect)
          .off(
              own,
              layouts.get(counter.of()),
              counter.through().map(way -> layouts.get(way.to())),
              counter,
              sink);
    } catch (SQLException e) {
      throw failed(own, e);
    }
  }

  private IOException failed(Layout layout, SQLException e) {
    return new IOException(
        "looking up rows of "
            + layout.realName()
            + " on "
            + copy
            + " failed: "
            + FailureWords.of(e),
        e);
  }

  private String where(Table table, List<Integer> columns) {
    List<String> conditions = new ArrayList<>();
    for (int column : columns) {
      conditions.add(
          dialect.quote(table.columns().get(column).name())
              + " = "
              + dialect.placeholder(table.columns().get(column)));
    }
    return " WHERE " + String.join(" AND ", conditions);
  }

  private ResultSet query(String sql, Table table, List<Integer> columns, List<Value> values)
      throws SQLException {
    PreparedStatement statement = statements.get(sql);
    if (statement == null) {
      statement = connection.prepareStatement(sql);
      statements.put(sql, statement);
    }
    for (int i = 0; i < columns.size(); i++) {
      dialect.bind(statement, i + 1, table.columns().get(columns.get(i)), values.get(i));
    }
    return statement.executeQuery();
  }

  @Override
  public void close() {
    try {
      connection.close();
    } catch (SQLException e) {
      // Nothing was written, so a failure to say goodbye loses nothing.
    }
  }
}
