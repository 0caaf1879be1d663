package weftex.store.copy;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import weftex.core.changeset.SchemaChange;
import weftex.store.Refusal;

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
   * @throws Refusal if its statements would do anything else; nothing was changed
   */
  public void make(SchemaChange change) throws SQLException, Refusal {
    String realTable = spec.prefix() + change.table();
    for (String statement : change.statements()) {
      if (!TableDefinition.onlyMakes(statement, words.escapesByBackslash(), realTable)) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "Change "
                + change.id()
                + " of the change set has a statement that does something else than making "
                + change.item().words()
                + ". Nothing was changed.",
            "Draft again with 'weftex draft', and ask who wrote this file.");
      }
    }
    words.lock(connection, "");
    for (String statement : change.statements()) {
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
              .map(column -> words.dropColumn(realTable, column, change.indexes()))
              .orElseGet(() -> List.of("DROP TABLE " + dialect.quote(realTable)));
      for (String statement : statements) {
        execute(statement);
      }
      return Fate.TAKEN_AWAY;
    } finally {
      words.unlock(connection);
    }
  }

  private boolean isUsed(SchemaChange change, String realTable) throws SQLException {
    String used =
        "SELECT 1 FROM "
            + dialect.quote(realTable)
            + change.column().map(c -> " WHERE " + words.differs(c, change.fill())).orElse("")
            + " LIMIT 1";
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(used)) {
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
