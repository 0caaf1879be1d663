package weftex.store.sqlite;

import java.util.ArrayList;
import java.util.List;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.database.CopySpec;
import weftex.store.script.ScriptWords;
import weftex.store.sqltext.SqlOut;

/**
 * A script for SQLite. The guard is a row of a temporary table: over another connection there is no
 * such table, so every statement that names it fails; and what is rolled back takes the guard with
 * it. That a transaction is open is told by {@code defer_foreign_keys}, which the end of every
 * transaction sets back. SQLite has no statement that commits on a condition: where the guard fell
 * before anything was written, committing changes nothing; where it fell later, a constraint rolls
 * back, which clients show as an error.
 */
public final class SqliteScript implements ScriptWords {
  private static final SqliteDump WORDS = new SqliteDump();
  private static final String GUARD = "temp.weftex_merge";
  private static final String SET = "UPDATE " + GUARD + " SET ";

  /**
   * Whether a transaction is open, once {@link #DEFER} was said in it and something was written.
   */
  private static final String OPEN =
      "(SELECT defer_foreign_keys FROM pragma_defer_foreign_keys) = 1";

  private static final String DEFER = "PRAGMA defer_foreign_keys = ON";

  private static final String GOING = "(SELECT go FROM " + GUARD + ") = 1 AND " + OPEN;

  private static final String NO_ROW = SET + "n = NULL WHERE 0";

  /** Counts the tables, columns and indexes that were made. */
  private static final String SHAPE = "(SELECT schema_version FROM pragma_schema_version)";

  /** No row may be in this table; one that comes rolls back. */
  private static final String STOP = "INSERT OR ROLLBACK INTO temp.weftex_stop SELECT 1";

  private static final String REFUSED = "SELECT 'nothing was changed: ' || ";

  private static final String FALLEN =
      REFUSED + "COALESCE(why, 'a statement failed') AS weftex FROM " + GUARD + " WHERE NOT go";

  /** How far apart two readings of the same digits may be, by the number. */
  private static final String NEAR = "1e-15";

  @Override
  public boolean isFor(CopySpec spec) {
    return WORDS.isFor(spec);
  }

  @Override
  public String quoted(String name) {
    return SqliteDump.quoted(name);
  }

  @Override
  public String text(String words) {
    return SqliteDump.quotedText(words);
  }

  @Override
  public void literal(SqlOut out, Column column, Value value) {
    boolean digits =
        value instanceof Value.Decimal && column.kind() == ValueKind.DECIMAL
            || value instanceof Value.Whole whole && whole.number().bitLength() >= Long.SIZE;
    if (digits) {
      // The column makes of it what it makes of any text.
      out.put(text(value.display()));
    } else {
      WORDS.literal(out, column, value);
    }
  }

  @Override
  public boolean comparesDigests() {
    return false;
  }

  /** Types are compared, too, where a column takes any. */
  @Override
  public void same(SqlOut out, Column column, Value value) {
    if (column.generated()) {
      return;
    }
    String name = quoted(column.name());
    if (value.isNull()) {
      out.put(" AND ").put(name).put(" IS NULL");
    } else if (value instanceof Value.Decimal) {
      near(out, column, value);
    } else if (value instanceof Value.Whole) {
      out.put(" AND ").put(typed(column, "integer")).put(name).put(" = ");
      literal(out, column, value);
    } else if (value instanceof Value.Text) {
      out.put(" AND ").put(typed(column, "text"));
      out.put(cast(column, "TEXT")).put(" COLLATE BINARY = ");
      literal(out, column, value);
    } else {
      out.put(" AND ").put(typed(column, "blob")).put(cast(column, "BLOB")).put(" = ");
      literal(out, column, value);
    }
  }

  private String typed(Column column, String type) {
    return column.kind() == ValueKind.ANY
        ? "typeof(" + quoted(column.name()) + ") = '" + type + "' AND "
        : "";
  }

  private String cast(Column column, String type) {
    String name = quoted(column.name());
    return column.kind() == ValueKind.ANY ? name : "CAST(" + name + " AS " + type + ")";
  }

  /** Not every version reads the same digits as the same number, to the last bit. */
  private void near(SqlOut out, Column column, Value value) {
    String number = "CAST(" + quoted(column.name()) + " AS REAL)";
    out.put(" AND ").put(typed(column, "real")).put("(").put(number).put(" = CAST(");
    literal(out, column, value);
    out.put(" AS REAL) OR abs(").put(number).put(" - ");
    literal(out, column, value);
    out.put(") <= abs(").put(number).put(") * ").put(NEAR).put(")");
  }

  @Override
  public String ifGoing() {
    return " AND " + GOING;
  }

  @Override
  public String whereGoing() {
    return " WHERE " + GOING;
  }

  @Override
  public String insertOrPass() {
    return "INSERT OR IGNORE INTO ";
  }

  /** In a transaction that the client began, its commit could come half-way. */
  @Override
  public List<String> first() {
    return List.of(
        "DROP TABLE IF EXISTS " + GUARD,
        "CREATE TEMP TABLE weftex_merge (go, n, why, wrote, missed, shape)",
        "DROP TABLE IF EXISTS temp.weftex_stop",
        "CREATE TEMP TABLE weftex_stop (now, CONSTRAINT nothing_was_changed CHECK (now = 0))",
        "INSERT INTO " + GUARD + " VALUES (0, NULL, NULL, 0, 0, 0)",
        "PRAGMA foreign_keys = ON",
        DEFER,
        SET + "n = NULL",
        SET + "n = " + OPEN);
  }

  @Override
  public boolean makesInside() {
    return true;
  }

  /**
   * There is no way to add a column only if it is absent: a second time is an error, where some
   * clients stop, so what there is to say is said before.
   */
  @Override
  public List<String> ifAbsent(List<String> statements, String realTable, String column) {
    List<String> made = new ArrayList<>();
    if (!column.isEmpty()) {
      made.add(FALLEN);
    }
    for (String statement : statements) {
      made.add(statement.replaceFirst("^CREATE (TABLE|UNIQUE INDEX|INDEX)", "$0 IF NOT EXISTS"));
    }
    made.add(SET + "wrote = wrote OR shape <> " + SHAPE);
    return made;
  }

  @Override
  public List<String> opening() {
    return List.of(
        SET + "go = (n = 0), why = CASE WHEN n THEN 'the client has begun a transaction' END",
        "BEGIN IMMEDIATE",
        DEFER,
        SET + "n = NULL, shape = " + SHAPE,
        SET
            + "why = CASE WHEN go AND NOT "
            + OPEN
            + " THEN 'no transaction could be begun; is the database in use?' ELSE why END, go = go AND "
            + OPEN);
  }

  @Override
  public String asks(String what) {
    return SET + "n = (SELECT " + what + " FROM ";
  }

  @Override
  public String asked() {
    return ")";
  }

  @Override
  public String counts(String quotedTable) {
    return asks("COUNT(*)") + quotedTable + " WHERE ";
  }

  /** Some versions would read the whole table for conditions between which there is an OR. */
  @Override
  public String orCounts(String quotedTable) {
    return ") + (SELECT COUNT(*) FROM " + quotedTable + " WHERE ";
  }

  @Override
  public String counted() {
    return asked();
  }

  @Override
  public List<String> told(long number, String why) {
    return List.of(
        SET
            + "why = CASE WHEN go AND n <> "
            + number
            + " THEN "
            + text(why)
            + " ELSE why END, go = go AND n IS "
            + number
            + " AND "
            + OPEN
            + ", n = NULL");
  }

  /** The last statement writes no row, so that an error of the next one shows. */
  @Override
  public List<String> written(int rows, String why) {
    return List.of(
        SET
            + "why = CASE WHEN go AND changes() <> "
            + rows
            + " THEN "
            + text(why)
            + " ELSE why END, wrote = wrote OR changes() > 0, go = go AND changes() = "
            + rows,
        NO_ROW);
  }

  @Override
  public List<String> followed() {
    return List.of(SET + "missed = missed + (go AND changes() = 0)", NO_ROW);
  }

  @Override
  public List<String> last(String ledger, String entry, boolean recorded, String done) {
    List<String> last = new ArrayList<>();
    last.add(FALLEN);
    last.add(STOP + " FROM " + GUARD + " WHERE wrote AND NOT go");
    last.add("COMMIT");
    last.add(REFUSED + "'the database refused to commit; is it in use?' AS weftex WHERE " + OPEN);
    last.add(STOP + " WHERE " + OPEN);
    String is =
        (recorded ? "" : "NOT ") + "EXISTS (SELECT 1 FROM " + ledger + " WHERE " + entry + ")";
    last.add(
        "SELECT CASE WHEN "
            + is
            + " THEN 'done: "
            + done
            + "' ELSE 'nothing was changed: not all statements came over one connection, or the client"
            + " had begun a transaction' END AS weftex WHERE NOT EXISTS (SELECT 1 FROM"
            + " sqlite_temp_master WHERE name = 'weftex_merge')");
    last.add(
        "SELECT 'done: "
            + done
            + "' || CASE WHEN missed > 0 THEN '; counters or caches that were not as expected: ' ||"
            + " missed ELSE '' END AS weftex FROM "
            + GUARD
            + " WHERE go AND "
            + is);
    return last;
  }
}
