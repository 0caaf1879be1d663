package weftex.store.copy;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Optional;

/**
 * A small table in the target that remembers what was applied. Its rows are written in the
 * transaction that they speak of, so after a crash they tell whether it was committed.
 */
public final class Ledger {
  private final Connection connection;
  private final Dialect dialect;
  private final String table;

  Ledger(Connection connection, Dialect dialect, String table) {
    this.connection = connection;
    this.dialect = dialect;
    this.table = table;
  }

  /**
   * One apply or undo.
   *
   * @param receipt the receipt's id
   * @param changeSet what the change set is known by
   * @param kind {@code apply} or {@code undo}
   * @param writtenAt when, as an ISO 8601 instant
   */
  public record Entry(String receipt, String changeSet, String kind, String writtenAt) {}

  void create() throws SQLException {
    if (exists()) {
      return;
    }
    try (Statement statement = connection.createStatement()) {
      String engine =
          dialect instanceof MariaDbDialect ? " ENGINE=InnoDB DEFAULT CHARSET=utf8mb4" : "";
      statement.execute(
          "CREATE TABLE IF NOT EXISTS "
              + dialect.quote(table)
              + " (receipt VARCHAR(64) NOT NULL PRIMARY KEY, change_set CHAR(64) NOT NULL, kind VARCHAR(8)"
              + " NOT NULL, written_at VARCHAR(40) NOT NULL)"
              + engine);
    }
  }

  private boolean exists() throws SQLException {
    try (ResultSet found =
        connection.getMetaData().getTables(connection.getCatalog(), null, table, null)) {
      return found.next();
    }
  }

  /** The last thing that was done with a change set; holds back every other apply until the end. */
  public Optional<Entry> last(String changeSet) throws SQLException {
    Optional<Entry> last = Optional.empty();
    String sql =
        "SELECT receipt, change_set, kind, written_at FROM "
            + dialect.quote(table)
            + " ORDER BY receipt"
            + dialect.lockClause();
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        if (rows.getString(2).equals(changeSet)) {
          last =
              Optional.of(
                  new Entry(
                      rows.getString(1), rows.getString(2), rows.getString(3), rows.getString(4)));
        }
      }
    }
    return last;
  }

  /** Whether a receipt's transaction was committed; waits for one that is still under way. */
  public boolean has(String receipt) throws SQLException {
    String sql =
        "SELECT 1 FROM " + dialect.quote(table) + " WHERE receipt = ?" + dialect.lockClause();
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.setString(1, receipt);
      try (ResultSet rows = statement.executeQuery()) {
        return rows.next();
      }
    }
  }

  /** Writes an entry. */
  public void write(Entry entry) throws SQLException {
    String sql = "INSERT INTO " + dialect.quote(table) + " VALUES (?, ?, ?, ?)";
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.setString(1, entry.receipt());
      statement.setString(2, entry.changeSet());
      statement.setString(3, entry.kind());
      statement.setString(4, entry.writtenAt());
      statement.executeUpdate();
    }
  }
}
