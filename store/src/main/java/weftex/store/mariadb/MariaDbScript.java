package weftex.store.mariadb;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Consumer;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.database.CopySpec;
import weftex.store.script.ScriptWords;
import weftex.store.sqltext.SqlOut;

/**
 * A script for MariaDB or MySQL. The guard is {@code @weftex_go}, a variable of the connection:
 * over another connection it is NULL, after an error {@code ROW_COUNT()} is -1, and then nothing
 * more is written. The last statements commit only if it still stands, and roll back else.
 */
public final class MariaDbScript implements ScriptWords {
  /** Longer texts are compared by their SHA-256. */
  private static final int LONG = 256;

  private static final String MODE =
      "STRICT_ALL_TABLES,NO_AUTO_VALUE_ON_ZERO,ALLOW_INVALID_DATES,NO_ENGINE_SUBSTITUTION";

  private static final MariaDbDump WORDS = new MariaDbDump();

  @Override
  public boolean isFor(CopySpec spec) {
    return WORDS.isFor(spec);
  }

  @Override
  public String quoted(String name) {
    return MariaDbDump.quoted(name);
  }

  @Override
  public String text(String words) {
    return MariaDbDump.quotedText(words);
  }

  @Override
  public void literal(SqlOut out, Column column, Value value) {
    WORDS.literal(out, column, value);
  }

  @Override
  public boolean comparesDigests() {
    return true;
  }

  @Override
  public void same(SqlOut out, Column column, Value value) {
    String name = quoted(column.name());
    if (!isAsked(column)) {
      return;
    }
    out.put(" AND ");
    if (value.isNull()) {
      out.put(name).put(" IS NULL");
    } else if (value instanceof Value.Digest digest) {
      hash(out, column, digest);
    } else if (value instanceof Value.Text text && text.utf8().length > LONG) {
      hash(out, column, Value.Digest.of(text.utf8()));
    } else if (value instanceof Value.Text || value instanceof Value.Binary) {
      String bytes =
          value instanceof Value.Text ? "CAST(" + name + " AS CHAR CHARACTER SET utf8mb4)" : name;
      out.put("CAST(").put(bytes).put(" AS BINARY) = CAST(");
      literal(out, column, value);
      out.put(" AS BINARY)");
    } else {
      out.put(name).put(" = ");
      literal(out, column, value);
    }
  }

  private void hash(SqlOut out, Column column, Value.Digest digest) {
    out.put(hashed(column)).put(" = '").put(digest.sha256()).put("'");
  }

  private String hashed(Column column) {
    String name = quoted(column.name());
    String bytes = column.kind() == ValueKind.BINARY ? name : "CONVERT(" + name + " USING utf8mb4)";
    return "SHA2(" + bytes + ", 256)";
  }

  /** A long chain of ORs takes the server longer to read than the rows. */
  @Override
  public boolean comparesByColumn() {
    return true;
  }

  @Override
  public void same(SqlOut out, Column column, String key, Map<BigInteger, Value> values) {
    if (!isAsked(column)) {
      return;
    }
    out.put(" AND ");
    if (values.values().stream().anyMatch(MariaDbScript::isLong)) {
      out.put(hashed(column)).put(" <=> ");
      choice(out, key, values, value -> out.put("'").put(digest(value).sha256()).put("'"));
    } else if (values.values().stream().anyMatch(Value.Text.class::isInstance)) {
      out.put("CAST(CAST(").put(quoted(column.name()));
      out.put(" AS CHAR CHARACTER SET utf8mb4) AS BINARY) <=> CAST(");
      choice(out, key, values, value -> literal(out, column, value));
      out.put(" AS BINARY)");
    } else {
      out.put(quoted(column.name())).put(" <=> ");
      choice(out, key, values, value -> literal(out, column, value));
    }
  }

  private static boolean isLong(Value value) {
    return value instanceof Value.Digest
        || value instanceof Value.Text text && text.utf8().length > LONG;
  }

  private static Value.Digest digest(Value value) {
    return value instanceof Value.Digest known
        ? known
        : Value.Digest.of(((Value.Text) value).utf8());
  }

  /** The value of each row, by its number; once, if all have the same. */
  private static void choice(
      SqlOut out, String key, Map<BigInteger, Value> values, Consumer<Value> put) {
    Consumer<Value> orNull =
        value -> {
          if (value.isNull()) {
            out.put("NULL");
          } else {
            put.accept(value);
          }
        };
    if (values.values().stream().distinct().count() == 1) {
      orNull.accept(values.values().iterator().next());
      return;
    }
    out.put("CASE ").put(key);
    values.forEach(
        (number, value) -> {
          out.put(" WHEN ").put(number.toString()).put(" THEN ");
          orNull.accept(value);
        });
    out.put(" END");
  }

  /** A float is not what its digits say, and what is generated follows from the rest. */
  private static boolean isAsked(Column column) {
    return !column.generated() && !column.type().toLowerCase(Locale.ROOT).startsWith("float");
  }

  @Override
  public String ifGoing() {
    return " AND @weftex_go = 1";
  }

  @Override
  public String whereGoing() {
    return " FROM DUAL WHERE @weftex_go = 1";
  }

  @Override
  public String insertOrPass() {
    return "INSERT IGNORE INTO ";
  }

  @Override
  public List<String> first() {
    return List.of(
        "SET NAMES utf8mb4",
        "SET @weftex_mode = @@sql_mode, @weftex_zone = @@time_zone, @weftex_go = NULL,"
            + " @weftex_why = NULL, @weftex_left = 0",
        "SET sql_mode = '" + MODE + "', time_zone = '+00:00'");
  }

  /** The server commits each by itself. */
  @Override
  public boolean makesInside() {
    return false;
  }

  @Override
  public List<String> ifAbsent(List<String> statements, String realTable, String column) {
    List<String> made = new ArrayList<>();
    for (String statement : statements) {
      if (column.isEmpty()) {
        made.add(statement.replaceFirst("^CREATE TABLE", "CREATE TABLE IF NOT EXISTS"));
      } else {
        made.add(
            "SET @weftex_made = IF((SELECT COUNT(*) FROM information_schema.COLUMNS WHERE"
                + " TABLE_SCHEMA = DATABASE() AND TABLE_NAME = "
                + text(realTable)
                + " AND COLUMN_NAME = "
                + text(column)
                + ") = 0, "
                + text(statement)
                + ", 'DO 0')");
        made.addAll(executed("weftex_made"));
      }
    }
    return made;
  }

  private static List<String> executed(String variable) {
    return List.of(
        "PREPARE " + variable + " FROM @" + variable,
        "EXECUTE " + variable,
        "DEALLOCATE PREPARE " + variable);
  }

  @Override
  public List<String> opening() {
    return List.of("START TRANSACTION", "SET @weftex_go = 1");
  }

  @Override
  public String asks(String what) {
    return "SELECT " + what + " INTO @weftex_n FROM ";
  }

  @Override
  public String asked() {
    return " FOR UPDATE";
  }

  @Override
  public String counts(String quotedTable) {
    return asks("COUNT(*)") + quotedTable + " WHERE (";
  }

  @Override
  public String orCounts(String quotedTable) {
    return ") OR (";
  }

  @Override
  public String counted() {
    return ")" + asked();
  }

  /**
   * In one SET all variables are read before the first is set, or one after the other, as the
   * server has it: both are right here. After an error the answer is still NULL.
   */
  @Override
  public List<String> told(long number, String why) {
    return List.of(
        "SET @weftex_why = IF(@weftex_go = 1 AND @weftex_n <> "
            + number
            + ", "
            + text(why)
            + ", @weftex_why), @weftex_go = IF(@weftex_go = 1 AND @weftex_n = "
            + number
            + ", 1, @weftex_go * 0), @weftex_n = NULL");
  }

  @Override
  public List<String> written(int rows, String why) {
    return List.of(
        "SET @weftex_why = IF(@weftex_go = 1 AND ROW_COUNT() <> "
            + rows
            + ", "
            + text(why)
            + ", @weftex_why), @weftex_go = IF(@weftex_go = 1 AND ROW_COUNT() = "
            + rows
            + ", 1, @weftex_go * 0)");
  }

  @Override
  public List<String> followed() {
    return List.of(
        "SET @weftex_left = @weftex_left + (@weftex_go = 1 AND ROW_COUNT() = 0), @weftex_go ="
            + " IF(@weftex_go = 1 AND ROW_COUNT() < 0, 0, @weftex_go)");
  }

  @Override
  public List<String> last(String ledger, String entry, boolean recorded, String done) {
    List<String> last = new ArrayList<>();
    last.add("SET @weftex_end = IF(@weftex_go = 1, 'COMMIT', 'DO 0')");
    last.addAll(executed("weftex_end"));
    // After a commit there is nothing left to roll back.
    last.add("ROLLBACK");
    last.add("SET sql_mode = @weftex_mode, time_zone = @weftex_zone");
    last.add(
        "SELECT CASE WHEN @weftex_go = 1 THEN CONCAT('done: "
            + done
            + "', IF(@weftex_left > 0, CONCAT('; counters or caches that were not as expected: ',"
            + " @weftex_left), '')) WHEN @weftex_go IS NULL THEN IF("
            + (recorded ? "" : "NOT ")
            + "EXISTS (SELECT 1 FROM "
            + ledger
            + " WHERE "
            + entry
            + "), 'done: "
            + done
            + "', 'nothing was changed: not all statements came over one connection') ELSE CONCAT('nothing was changed: ',"
            + " COALESCE(@weftex_why, 'a statement failed')) END AS weftex");
    return last;
  }
}
