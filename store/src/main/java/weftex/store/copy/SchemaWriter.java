package weftex.store.copy;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import weftex.core.change.SchemaChange;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.schema.IndexShape;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.database.Dialect;
import weftex.store.database.SchemaWords;
import weftex.store.rows.ExactValue;

/**
 * Makes new tables and columns on a copy, and takes away those that nobody has used. A server
 * commits each of these by itself.
 */
public final class SchemaWriter implements AutoCloseable {
  private final CopySpec spec;
  private final Dialect dialect;
  private final SchemaWords words;
  private final Connection connection;

  SchemaWriter(CopySpec spec, Dialect dialect) throws Refusal {
    this.spec = spec;
    this.dialect = dialect;
    this.words = dialect.schema();
    this.connection = Connecting.open(spec);
  }

  /** What became of something that was to be taken away. */
  public enum Fate {
    TAKEN_AWAY,
    /** It was not there. */
    GONE,
    /** There are rows in it, or values, so it stays. */
    IN_USE
  }

  /** Rights that the copy's user lacks for this. */
  public List<String> missingRights() throws SQLException {
    return words.missingRights(connection, spec);
  }

  /** Whether the table or column is there. */
  public boolean isThere(SchemaChange change) throws SQLException {
    return dialect
        .catalog(connection, spec)
        .find(change.table())
        .map(table -> change.column().map(c -> table.table().position(c).isPresent()).orElse(true))
        .orElse(false);
  }

  /**
   * Makes it.
   *
   * @throws SQLException if the server refuses; what was made of it until then may be there
   * @throws Refusal if an older version drafted it, as statements; nothing was changed
   */
  public void make(SchemaChange change) throws SQLException, Refusal {
    List<String> statements = words.making(change, spec.prefix());
    words.lock(connection, "");
    for (String statement : statements) {
      execute(statement);
    }
    words.unlock(connection);
  }

  /** Takes it away, unless somebody has used it. Nobody else can write to it in between. */
  public Fate takeAway(SchemaChange change) throws SQLException {
    if (!isThere(change)) {
      return Fate.GONE;
    }
    String realTable = spec.prefix() + change.table();
    words.lock(connection, realTable);
    try {
      if (isUsed(change, realTable)) {
        return Fate.IN_USE;
      }
      List<String> statements =
          change
              .column()
              .map(column -> words.dropColumn(realTable, column, indexes(change)))
              .orElseGet(() -> List.of("DROP TABLE " + dialect.quote(realTable)));
      for (String statement : statements) {
        execute(statement);
      }
      return Fate.TAKEN_AWAY;
    } finally {
      words.unlock(connection);
    }
  }

  private static List<String> indexes(SchemaChange change) {
    if (change.made() instanceof SchemaChange.Made.NewColumn column) {
      return column.indexes().stream().map(IndexShape::name).toList();
    }
    return change.made() instanceof SchemaChange.Made.Named named ? named.indexes() : List.of();
  }

  /** Whether there is a row in a table, or a value in a column that nobody put there by default. */
  private boolean isUsed(SchemaChange change, String realTable) throws SQLException {
    String any = "SELECT 1 FROM " + dialect.quote(realTable);
    if (change.made() instanceof SchemaChange.Made.NewColumn made) {
      Table table = dialect.catalog(connection, spec).find(change.table()).orElseThrow().table();
      Column column = table.columns().get(table.position(made.shape().name()).orElseThrow());
      String where = " WHERE NOT (" + ExactValue.condition(dialect, column) + ") LIMIT 1";
      try (PreparedStatement statement = connection.prepareStatement(any + where)) {
        ExactValue.bind(dialect, statement, 1, column, made.fill());
        try (ResultSet rows = statement.executeQuery()) {
          return rows.next();
        }
      }
    }
    // Of a column that an older version made it is not known what it held by default.
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(any + " LIMIT 1")) {
      return rows.next();
    }
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  /** Those of some that are there. */
  public List<SchemaChange> thereOf(List<SchemaChange> changes) throws SQLException {
    List<SchemaChange> there = new ArrayList<>();
    for (SchemaChange change : changes) {
      if (isThere(change)) {
        there.add(change);
      }
    }
    return there;
  }

  @Override
  public void close() {
    Connecting.close(connection);
  }
}
