package weftex.store.rows;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Condition;
import weftex.core.site.Counter;
import weftex.store.database.Dialect;
import weftex.store.database.Layout;
import weftex.store.database.WriteTable;

/** Reads what counters should hold, and which values are to be made empty. */
public final class DerivedValues {
  private final Connection connection;
  private final Dialect dialect;

  DerivedValues(Connection connection, Dialect dialect) {
    this.connection = connection;
    this.dialect = dialect;
  }

  /** A piece of SQL with the values to bind. */
  private static final class Sql {
    private final StringBuilder text = new StringBuilder();
    private final List<Column> columns = new ArrayList<>();
    private final List<Value> values = new ArrayList<>();
  }

  /**
   * Counts.
   *
   * @param of the table whose rows are counted
   * @param through the table that the counter goes through, if it does
   * @param owners keys of counting rows, a few hundred at most
   * @return the count by key; a key that nothing refers to is missing
   */
  public Map<Value, Long> counts(
      WriteTable of, Counter counter, Optional<WriteTable> through, Collection<Value> owners)
      throws SQLException {
    Column by = of.table().columns().get(counter.by());
    Sql sql = new Sql();
    sql.text.append("SELECT ").append(dialect.readExpression(by)).append(", COUNT(*) FROM ");
    sql.text.append(dialect.quote(of.realName()));
    sql.text.append(" WHERE ");
    in(sql, by, owners);
    counted(sql, of.table(), counter, through.map(t -> new Counted(t.table(), t.realName())));
    sql.text.append(" GROUP BY ").append(dialect.quote(by.name()));
    Map<Value, Long> counts = new LinkedHashMap<>();
    try (PreparedStatement statement = prepare(sql);
        ResultSet rows = statement.executeQuery()) {
      RowReader reader = reader(by, of.realName());
      while (rows.next()) {
        counts.put(reader.readWithoutKey(rows).values().get(0), rows.getLong(2));
      }
    }
    return counts;
  }

  /** A table by its shape and its name with prefix. */
  private record Counted(Table table, String realName) {}

  /** What a row must have and refer to if it counts. */
  private void counted(Sql sql, Table of, Counter counter, Optional<Counted> through) {
    where(sql, of, counter.where());
    if (through.isPresent()) {
      Table to = through.get().table();
      Counter.Through way = counter.through().orElseThrow();
      sql.text.append(" AND ").append(dialect.quote(of.columns().get(way.column()).name()));
      sql.text.append(" IN (SELECT ");
      sql.text.append(dialect.quote(to.columns().get(to.key().get(0)).name()));
      sql.text.append(" FROM ").append(dialect.quote(through.get().realName()));
      sql.text.append(" WHERE 1 = 1");
      where(sql, to, way.where());
      sql.text.append(")");
    }
  }

  /** Takes a row whose counter is off. */
  public interface CounterSink {
    void accept(List<Value> row, String holds, long counted);
  }

  /** Finds the rows in which a counter does not hold what there is to count. */
  void off(Layout own, Layout of, Optional<Layout> through, Counter counter, CounterSink sink)
      throws SQLException {
    Table shape = own.table();
    Sql sql = new Sql();
    String key = dialect.quote(shape.columns().get(shape.key().get(0)).name());
    String holds = dialect.quote(shape.columns().get(counter.column()).name());
    String by = dialect.quote(of.table().columns().get(counter.by()).name());
    sql.text.append("SELECT ");
    sql.text.append(
        String.join(", ", shape.columns().stream().map(dialect::readExpression).toList()));
    sql.text.append(", COALESCE(weftex_count, 0) FROM ").append(dialect.quote(own.realName()));
    sql.text.append(" LEFT JOIN (SELECT ").append(by).append(" AS weftex_by, COUNT(*) AS");
    sql.text.append(" weftex_count FROM ").append(dialect.quote(of.realName()));
    sql.text.append(" WHERE 1 = 1");
    counted(sql, of.table(), counter, through.map(t -> new Counted(t.table(), t.realName())));
    sql.text.append(" GROUP BY ").append(by).append(") weftex_counts ON weftex_by = ").append(key);
    sql.text.append(" WHERE ").append(holds).append(" <> COALESCE(weftex_count, 0)");
    try (PreparedStatement statement = prepare(sql);
        ResultSet rows = statement.executeQuery()) {
      RowReader reader = RowReader.ofFew(layout(shape.columns(), own.realName()), dialect);
      while (rows.next()) {
        List<Value> row = reader.readWithoutKey(rows).values();
        sink.accept(
            row, row.get(counter.column()).display(), rows.getLong(shape.columns().size() + 1));
      }
    }
  }

  /**
   * The keys of the counting rows of which counted rows go through some others.
   *
   * @param others keys of rows of the table that the counter goes through
   */
  public Set<Value> owners(WriteTable of, Counter counter, Collection<Value> others)
      throws SQLException {
    Column by = of.table().columns().get(counter.by());
    Sql sql = new Sql();
    sql.text.append("SELECT DISTINCT ").append(dialect.readExpression(by)).append(" FROM ");
    sql.text.append(dialect.quote(of.realName())).append(" WHERE ");
    in(sql, of.table().columns().get(counter.through().orElseThrow().column()), others);
    Set<Value> owners = new LinkedHashSet<>();
    try (PreparedStatement statement = prepare(sql);
        ResultSet rows = statement.executeQuery()) {
      RowReader reader = reader(by, of.realName());
      while (rows.next()) {
        owners.add(reader.readWithoutKey(rows).values().get(0));
      }
    }
    return owners;
  }

  /** The keys of rows that a condition tells and that hold something in a column. */
  public List<List<Value>> filled(WriteTable table, Condition rows, int column)
      throws SQLException {
    return filled(table, rows, column, Map.of());
  }

  /**
   * The same, of rows with one of some values in other columns.
   *
   * @param with by the column's position; a few hundred values at most
   */
  public List<List<Value>> filled(
      WriteTable table, Condition rows, int column, Map<Integer, Collection<Value>> with)
      throws SQLException {
    Table shape = table.table();
    List<Integer> read = new ArrayList<>(shape.key());
    rows.patterns().keySet().forEach(read::add);
    List<Column> columns = read.stream().map(shape.columns()::get).toList();
    Sql sql = new Sql();
    sql.text.append("SELECT ");
    sql.text.append(String.join(", ", columns.stream().map(dialect::readExpression).toList()));
    sql.text.append(" FROM ").append(dialect.quote(table.realName())).append(" WHERE ");
    sql.text.append(dialect.quote(shape.columns().get(column).name())).append(" <> ''");
    with.forEach(
        (at, values) -> {
          sql.text.append(" AND ");
          in(sql, shape.columns().get(at), values);
        });
    List<List<Value>> keys = new ArrayList<>();
    try (PreparedStatement statement = prepare(sql);
        ResultSet result = statement.executeQuery()) {
      RowReader reader = RowReader.ofFew(layout(columns, table.realName()), dialect);
      while (result.next()) {
        Row row = reader.readWithoutKey(result);
        List<Value> whole = new ArrayList<>();
        shape.columns().forEach(unused -> whole.add(Value.NULL));
        for (int i = 0; i < read.size(); i++) {
          whole.set(read.get(i), row.values().get(i));
        }
        if (rows.holdsFor(whole)) {
          keys.add(Table.pick(whole, shape.key()));
        }
      }
    }
    return keys;
  }

  private void where(Sql sql, Table table, Map<Integer, List<String>> where) {
    where.forEach(
        (position, values) -> {
          sql.text.append(" AND ");
          in(sql, table.columns().get(position), values.stream().<Value>map(Value::text).toList());
        });
  }

  private void in(Sql sql, Column column, Collection<Value> values) {
    sql.text.append(dialect.quote(column.name())).append(" IN (");
    boolean first = true;
    for (Value value : values) {
      sql.text.append(first ? "" : ", ").append(dialect.placeholder(column));
      sql.columns.add(column);
      sql.values.add(value);
      first = false;
    }
    sql.text.append(")");
  }

  private PreparedStatement prepare(Sql sql) throws SQLException {
    PreparedStatement statement = connection.prepareStatement(sql.text.toString());
    for (int i = 0; i < sql.values.size(); i++) {
      dialect.bind(statement, i + 1, sql.columns.get(i), sql.values.get(i));
    }
    return statement;
  }

  private RowReader reader(Column column, String realName) {
    return RowReader.ofFew(layout(List.of(column), realName), dialect);
  }

  private static Layout layout(List<Column> columns, String realName) {
    return new Layout(
        new Table(realName, columns, List.of(), -1, List.of(), List.of()), realName, List.of());
  }
}
