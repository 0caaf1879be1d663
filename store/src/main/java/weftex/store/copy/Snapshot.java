package weftex.store.copy;

import java.io.IOException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import weftex.core.compare.Side;
import weftex.core.plan.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * One consistent state of a copy, read through one connection: its rows in order, and single rows
 * by value.
 */
public final class Snapshot implements Side, RowFinder, AutoCloseable {
  private static final int FETCH_SIZE = 256;

  private final Connection connection;
  private final Dialect dialect;
  private final String copy;
  private final Map<String, Layout> layouts = new HashMap<>();
  private final Map<String, PreparedStatement> statements = new HashMap<>();

  Snapshot(Connection connection, Dialect dialect, String copy, List<Layout> layouts)
      throws SQLException {
    this.connection = connection;
    this.dialect = dialect;
    this.copy = copy;
    layouts.forEach(layout -> this.layouts.put(layout.table().name(), layout));
    dialect.beginSnapshot(connection);
  }

  @Override
  public RowStream open(Table table) throws IOException {
    Layout layout = layouts.get(table.name());
    try {
      PreparedStatement statement =
          connection.prepareStatement(layout.select(dialect) + layout.orderBy(dialect));
      statement.setFetchSize(FETCH_SIZE);
      String place = layout.realName() + " on " + copy;
      return new PrefetchedRows(
          new JdbcRowStream(
              statement, new RowReader(layout, dialect), place, layout.table().hasKey()),
          "read " + place);
    } catch (SQLException e) {
      throw new IOException(
          "reading " + layout.realName() + " on " + copy + " failed: " + e.getMessage(), e);
    }
  }

  @Override
  public List<Row> find(Table table, List<Integer> columns, List<Value> values, int limit)
      throws IOException {
    Layout layout = layouts.get(table.name());
    String sql = layout.select(dialect) + where(table, columns) + " LIMIT " + limit;
    try (ResultSet rows = query(sql, table, columns, values)) {
      RowReader reader = new RowReader(layout, dialect);
      List<Row> found = new ArrayList<>();
      while (rows.next()) {
        found.add(reader.read(rows));
      }
      return found;
    } catch (SQLException e) {
      throw failed(layout, e);
    }
  }

  @Override
  public long count(Table table, List<Integer> columns, List<Value> values) throws IOException {
    Layout layout = layouts.get(table.name());
    String sql = "SELECT COUNT(*) FROM " + dialect.quote(layout.realName()) + where(table, columns);
    try (ResultSet rows = query(sql, table, columns, values)) {
      rows.next();
      return rows.getLong(1);
    } catch (SQLException e) {
      throw failed(layout, e);
    }
  }

  private IOException failed(Layout layout, SQLException e) {
    return new IOException(
        "looking up rows of " + layout.realName() + " on " + copy + " failed: " + e.getMessage(),
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
