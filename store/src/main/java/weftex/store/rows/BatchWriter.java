package weftex.store.rows;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.FailureWords;
import weftex.store.database.Dialect;
import weftex.store.database.WriteTable;

/**
 * Sends equal statements together. A statement whose unique value is taken waits until the others
 * are through, since one of them may set that value free. With tables that can't roll back every
 * statement goes alone: some of their engines refuse savepoints, and a batch that was half written
 * could not be sent again.
 */
final class BatchWriter {
  private static final int LONGEST_BATCH = 1000;
  private static final long LARGEST_BATCH = 4L << 20;

  private final Connection connection;
  private final Dialect dialect;
  private final List<Write> batch = new ArrayList<>();
  private final List<Write> waiting = new ArrayList<>();

  /** Statements that the server takes one by one. */
  private final Set<String> refusedBatches = new HashSet<>();

  private long bytes;
  private String sql = "";
  private boolean alone;

  /** The last kind of update: mostly the next is of the same kind. */
  private UpdateWords updating;

  private record Write(String sql, List<Column> columns, List<Value> values) {}

  BatchWriter(Connection connection, Dialect dialect) {
    this.connection = connection;
    this.dialect = dialect;
  }

  /** Sends every statement alone from here on. */
  void sendAlone() {
    alone = true;
  }

  void insert(WriteTable table, Map<String, Value> values) throws SQLException {
    List<Column> columns = columns(table.table(), values);
    String names = String.join(", ", columns.stream().map(c -> dialect.quote(c.name())).toList());
    String marks = String.join(", ", columns.stream().map(dialect::placeholder).toList());
    add(
        new Write(
            "INSERT INTO "
                + dialect.quote(table.realName())
                + " ("
                + names
                + ") VALUES ("
                + marks
                + ")",
            columns,
            List.copyOf(values.values())));
  }

  void update(WriteTable table, List<Value> key, Map<String, Value> values) throws SQLException {
    if (updating == null || !updating.fits(table, values.keySet())) {
      updating = updateOf(table, values);
    }
    List<Value> bound = new ArrayList<>(values.values());
    bound.addAll(key);
    add(new Write(updating.sql(), updating.columns(), bound));
  }

  private UpdateWords updateOf(WriteTable table, Map<String, Value> values) {
    List<Column> columns = new ArrayList<>(columns(table.table(), values));
    String assignments =
        String.join(
            ", ",
            columns.stream()
                .map(c -> dialect.quote(c.name()) + " = " + dialect.placeholder(c))
                .toList());
    table.table().key().forEach(i -> columns.add(table.table().columns().get(i)));
    return new UpdateWords(
        table,
        List.copyOf(values.keySet()),
        "UPDATE "
            + dialect.quote(table.realName())
            + " SET "
            + assignments
            + " WHERE "
            + byKey(table.table()),
        columns);
  }

  void delete(WriteTable table, List<Value> key) throws SQLException {
    List<Column> columns = table.table().key().stream().map(table.table().columns()::get).toList();
    add(
        new Write(
            "DELETE FROM " + dialect.quote(table.realName()) + " WHERE " + byKey(table.table()),
            columns,
            key));
  }

  private static List<Column> columns(Table table, Map<String, Value> values) {
    return values.keySet().stream()
        .map(name -> table.columns().get(table.position(name).orElseThrow()))
        .toList();
  }

  private String byKey(Table table) {
    return String.join(
        " AND ",
        table.key().stream()
            .map(table.columns()::get)
            .map(c -> dialect.quote(c.name()) + " = " + dialect.placeholder(c))
            .toList());
  }

  private void add(Write write) throws SQLException {
    if (!write.sql().equals(sql) || batch.size() == LONGEST_BATCH || bytes > LARGEST_BATCH) {
      send();
      sql = write.sql();
    }
    batch.add(write);
    for (Value value : write.values()) {
      bytes += value instanceof Value.Text text ? text.utf8().length : 16;
    }
  }

  Optional<String> flush() throws SQLException {
    send();
    Optional<String> refused = Optional.empty();
    int before = Integer.MAX_VALUE;
    while (!waiting.isEmpty() && waiting.size() < before) {
      before = waiting.size();
      List<Write> again = List.copyOf(waiting);
      waiting.clear();
      refused = singly(again);
    }
    return waiting.isEmpty() ? Optional.empty() : refused;
  }

  private void send() throws SQLException {
    if (batch.isEmpty()) {
      return;
    }
    if (alone || refusedBatches.contains(sql)) {
      singly(List.copyOf(batch));
      batch.clear();
      bytes = 0;
      return;
    }
    execute("SAVEPOINT weftex_batch");
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      for (Write write : batch) {
        bind(statement, write);
        statement.addBatch();
      }
      statement.executeBatch();
    } catch (SQLException e) {
      if (says(dialect::isBatchRefused, e)) {
        refusedBatches.add(sql);
      } else if (!isDuplicate(e)) {
        throw e;
      }
      execute("ROLLBACK TO SAVEPOINT weftex_batch");
      singly(batch);
    }
    batch.clear();
    bytes = 0;
  }

  private void execute(String command) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(command);
    }
  }

  private Optional<String> singly(List<Write> writes) throws SQLException {
    Optional<String> refused = Optional.empty();
    for (Write write : writes) {
      try (PreparedStatement statement = connection.prepareStatement(write.sql())) {
        bind(statement, write);
        statement.executeUpdate();
      } catch (SQLException e) {
        if (!isDuplicate(e)) {
          throw e;
        }
        refused = Optional.of(FailureWords.of(e));
        waiting.add(write);
      }
    }
    return refused;
  }

  private boolean isDuplicate(SQLException e) {
    return says(dialect::isDuplicate, e);
  }

  /** Whether a failure, or what caused it, is one of a kind. */
  private static boolean says(Predicate<SQLException> kind, SQLException e) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof SQLException sqlCause && kind.test(sqlCause)) {
        return true;
      }
    }
    return false;
  }

  private void bind(PreparedStatement statement, Write write) throws SQLException {
    for (int i = 0; i < write.values().size(); i++) {
      dialect.bind(statement, i + 1, write.columns().get(i), write.values().get(i));
    }
  }
}
