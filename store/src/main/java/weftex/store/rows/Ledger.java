package weftex.store.rows;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import weftex.store.database.Dialect;

/**
 * A small table in the target that remembers what was applied. Its rows are written in the
 * transaction that they speak of, so after a crash they tell whether it was committed. Their order
 * is a sequence of its own, since clocks go back.
 */
public final class Ledger {
  private static final String SEQUENCE = "seq";
  private static final String HASH = "receipt_sha256";

  private final Connection connection;
  private final Dialect dialect;
  private final String table;
  private Set<String> columns = Set.of();

  public Ledger(Connection connection, Dialect dialect, String table) {
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
   * @param sequence its place in the order of all entries, from 1; 0 for one that an older version
   *     wrote
   * @param hash SHA-256 of the receipt; empty if an older version wrote it, or if the table could
   *     not be altered to hold it
   */
  public record Entry(
      String receipt,
      String changeSet,
      String kind,
      String writtenAt,
      long sequence,
      Optional<String> hash) {}

  /** The statement that makes the table, unless it is there. */
  public static String making(Dialect dialect, String table) {
    return "CREATE TABLE IF NOT EXISTS "
        + dialect.quote(table)
        + " (receipt VARCHAR(64) NOT NULL PRIMARY KEY, change_set CHAR(64) NOT NULL, kind VARCHAR(8)"
        + " NOT NULL, written_at VARCHAR(40) NOT NULL, seq BIGINT NULL, receipt_sha256 CHAR(64) NULL)"
        + dialect.schema().ledgerOptions();
  }

  /**
   * Makes the table, or adds what a table of an older version lacks. Without the right to alter it
   * the older one goes on, and its entries have neither sequence nor hash.
   */
  void create() throws SQLException {
    columns = columns();
    if (columns.isEmpty()) {
      execute(making(dialect, table));
      columns = columns();
    }
    for (String added : List.of(SEQUENCE + " BIGINT", HASH + " CHAR(64)")) {
      if (!columns.contains(added.substring(0, added.indexOf(' ')))) {
        try {
          execute("ALTER TABLE " + dialect.quote(table) + " ADD COLUMN " + added + " NULL");
        } catch (SQLException e) {
          // Not allowed: the ledger stays as it was; 'check' names the right that is missing.
          return;
        }
      }
    }
    columns = columns();
  }

  /** Whether there is a table. */
  public boolean exists() throws SQLException {
    return !columns().isEmpty();
  }

  /** Whether an older version made the table, so that it has yet to be altered. */
  public boolean isOlder() throws SQLException {
    Set<String> found = columns();
    return !found.isEmpty() && !found.containsAll(List.of(SEQUENCE, HASH));
  }

  private Set<String> columns() throws SQLException {
    Set<String> found = new HashSet<>();
    // The driver takes a table's name for a pattern, in which '_' is any character.
    try (ResultSet rows =
        connection
            .getMetaData()
            .getColumns(
                connection.getCatalog(),
                null,
                table.replace("\\", "\\\\").replace("_", "\\_").replace("%", "\\%"),
                null)) {
      while (rows.next()) {
        if (rows.getString("TABLE_NAME").equals(table)) {
          found.add(rows.getString("COLUMN_NAME").toLowerCase(Locale.ROOT));
        }
      }
    }
    return found;
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  /** All entries, in their order; holds back every other apply until the end. */
  public List<Entry> all() throws SQLException {
    return all(dialect.lockClause());
  }

  /** All committed entries, in their order; none if there is no ledger yet. Waits for nobody. */
  public List<Entry> committed() throws SQLException {
    columns = columns();
    return columns.isEmpty() ? List.of() : all("");
  }

  private List<Entry> all(String lock) throws SQLException {
    List<Entry> entries = new ArrayList<>();
    String sql = "SELECT * FROM " + dialect.quote(table) + lock;
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        entries.add(
            new Entry(
                rows.getString("receipt"),
                rows.getString("change_set"),
                rows.getString("kind"),
                rows.getString("written_at"),
                columns.contains(SEQUENCE) ? rows.getLong(SEQUENCE) : 0,
                columns.contains(HASH)
                    ? Optional.ofNullable(rows.getString(HASH))
                    : Optional.empty()));
      }
    }
    // What an older version wrote stands first, in the order of its ids.
    entries.sort(Comparator.comparingLong(Entry::sequence).thenComparing(Entry::receipt));
    return entries;
  }

  /** The last thing that was done with a change set; holds back every other apply until the end. */
  public Optional<Entry> last(String changeSet) throws SQLException {
    return all().stream()
        .filter(entry -> entry.changeSet().equals(changeSet))
        .reduce((earlier, later) -> later);
  }

  /** The entry of a receipt, if its transaction was committed; waits for one under way. */
  public Optional<Entry> find(String receipt) throws SQLException {
    return all().stream().filter(entry -> entry.receipt().equals(receipt)).findFirst();
  }

  /**
   * The place in the order that the next entry gets.
   *
   * @param known the last place that is known of this copy, from whatever was its ledger before
   */
  public long next(long known) throws SQLException {
    return Math.max(known, all().stream().mapToLong(Entry::sequence).max().orElse(0)) + 1;
  }

  /** Writes an entry. */
  public void write(Entry entry) throws SQLException {
    boolean full = columns.contains(SEQUENCE) && columns.contains(HASH);
    String sql =
        "INSERT INTO "
            + dialect.quote(table)
            + " (receipt, change_set, kind, written_at"
            + (full ? ", seq, receipt_sha256) VALUES (?, ?, ?, ?, ?, ?)" : ") VALUES (?, ?, ?, ?)");
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.setString(1, entry.receipt());
      statement.setString(2, entry.changeSet());
      statement.setString(3, entry.kind());
      statement.setString(4, entry.writtenAt());
      if (full) {
        statement.setLong(5, entry.sequence());
        statement.setString(6, entry.hash().orElse(null));
      }
      statement.executeUpdate();
    }
  }
}
