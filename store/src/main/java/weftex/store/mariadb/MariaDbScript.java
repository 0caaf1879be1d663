package weftex.store.mariadb;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.SchemaChange;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.Refusal;
import weftex.store.copy.Catalog;
import weftex.store.copy.CatalogTable;
import weftex.store.dump.MergeScript;
import weftex.store.dump.SqlOut;
import weftex.store.receipt.Effect;
import weftex.store.receipt.ReceiptRows;

/**
 * A merge as statements that any client of MariaDB or MySQL sends. Every check and every write
 * hangs on {@code @weftex_go}, a variable of the connection: over another connection it is NULL,
 * after an error {@code ROW_COUNT()} is -1, and then nothing more is written. The last statements
 * commit only if it still stands, and roll back else.
 */
final class MariaDbScript implements MergeScript {
  private static final int ROWS_AT_ONCE = 40;

  /** Longer texts are compared by their SHA-256. */
  private static final int LONG = 256;

  private static final String MODE =
      "STRICT_ALL_TABLES,NO_AUTO_VALUE_ON_ZERO,ALLOW_INVALID_DATES,NO_ENGINE_SUBSTITUTION";

  private final Catalog catalog;
  private final String prefix;
  private final MariaDbDump words = new MariaDbDump();
  private final Map<String, String> definitions;

  /**
   * @param prefix what the names of the copy's tables begin with
   * @param definitions how the server defines each table that the merge made or gave a column to,
   *     by its name without prefix
   */
  MariaDbScript(Catalog catalog, String prefix, Map<String, String> definitions) {
    this.catalog = catalog;
    this.prefix = prefix;
    this.definitions = Map.copyOf(definitions);
  }

  /** A row as the script has to find it, and as it has to be then. */
  private record Turn(Action action, CatalogTable table, ReceiptRows.Touched row) {
    Map<String, Value> before() {
      return row.before();
    }

    Map<String, Value> after() {
      return row.after();
    }
  }

  @Override
  public void write(Merge merge, OutputStream out) throws IOException, Refusal {
    Script script = new Script(out);
    script.begin(merge, "makes the changes");
    script.schema(merge);
    script.guard(merge, merge.ledger());
    script.turns(turns(merge, false));
    for (Effect effect : merge.rows().effects()) {
      script.follow(effect, false);
    }
    script.write(
        "INSERT INTO "
            + ledger()
            + " (receipt, change_set, kind, written_at, seq, receipt_sha256) SELECT "
            + MariaDbDump.quotedText(merge.entry().receipt())
            + ", "
            + MariaDbDump.quotedText(merge.entry().changeSet())
            + ", 'apply', "
            + MariaDbDump.quotedText(merge.entry().writtenAt())
            + ", "
            + merge.entry().sequence()
            + ", "
            + merge.entry().hash().map(MariaDbDump::quotedText).orElse("NULL")
            + " FROM DUAL WHERE @weftex_go = 1");
    script.end("the changes are made");
  }

  @Override
  public void writeBack(Merge merge, OutputStream out) throws IOException, Refusal {
    Script script = new Script(out);
    script.begin(merge, "takes the changes back");
    script.guardBack(merge);
    script.turns(turns(merge, true));
    for (Effect effect : merge.rows().effects()) {
      script.follow(effect, true);
    }
    script.write(
        "DELETE FROM "
            + ledger()
            + " WHERE receipt = "
            + MariaDbDump.quotedText(merge.entry().receipt())
            + " AND @weftex_go = 1");
    script.end("the changes are taken back");
  }

  private String ledger() {
    return MariaDbDump.quoted(prefix + Catalog.LEDGER);
  }

  private interface Turns {
    Turn turn(int index) throws IOException, Refusal;
  }

  /** Rows one after the other; backwards, and each turned round, for taking back. */
  private record Rows(int size, Turns turns) {}

  private Rows turns(Merge merge, boolean back) {
    int size = merge.rows().size();
    return new Rows(size, i -> turn(merge.rows().get(back ? size - 1 - i : i), back));
  }

  private Turn turn(ReceiptRows.Touched row, boolean back) throws Refusal {
    CatalogTable table = table(row.table());
    if (!table.table().hasKey()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The table "
              + table.realName()
              + " has no key, so a script can't tell its rows apart. Nothing was written.",
          "Leave the table out, or write the whole copy with 'weftex apply -o'.");
    }
    if (!back) {
      return new Turn(row.action(), table, row);
    }
    Action action =
        switch (row.action()) {
          case ADD -> Action.REMOVE;
          case REMOVE -> Action.ADD;
          case UPDATE -> Action.UPDATE;
        };
    Map<String, Value> before = row.after();
    Map<String, Value> after = row.before();
    if (action == Action.UPDATE) {
      // What live edited since in other columns is none of this.
      Set<String> moved = moved(row);
      before = only(before, moved);
      after = only(after, moved);
    }
    return new Turn(
        action,
        table,
        new ReceiptRows.Touched(row.change(), action, row.table(), row.key(), before, after));
  }

  private static Set<String> moved(ReceiptRows.Touched row) {
    Set<String> moved = new LinkedHashSet<>();
    row.after()
        .forEach(
            (column, value) -> {
              if (!value.matches(row.before().getOrDefault(column, Value.NULL))) {
                moved.add(column);
              }
            });
    return moved;
  }

  private static Map<String, Value> only(Map<String, Value> values, Set<String> columns) {
    Map<String, Value> some = new LinkedHashMap<>(values);
    some.keySet().retainAll(columns);
    return some;
  }

  private CatalogTable table(String name) {
    return catalog
        .find(name)
        .orElseThrow(() -> new IllegalStateException("no table " + name + " is known"));
  }

  private static String quoted(Column column) {
    return MariaDbDump.quoted(column.name());
  }

  private static Column column(Table table, String name) {
    return table.columns().get(table.position(name).orElseThrow());
  }

  /** The script as it grows. */
  private final class Script {
    private final OutputStream out;
    private final SqlOut sql = new SqlOut();

    Script(OutputStream out) {
      this.out = out;
    }

    private void line(String text) throws IOException {
      out.write(text.getBytes(StandardCharsets.UTF_8));
      out.write('\n');
    }

    private void statement(String text) throws IOException {
      line(text + ";");
    }

    /** Ends the statement that was gathered. */
    private void gathered() throws IOException {
      sql.put(";\n");
      sql.writeTo(out);
    }

    void begin(Merge merge, String does) throws IOException {
      for (String about : merge.about()) {
        line("-- " + about);
      }
      line("-- It " + does + " in one transaction, or nothing at all; its last row says which.");
      line("");
      statement("SET NAMES utf8mb4");
      statement(
          "SET @weftex_mode = @@sql_mode, @weftex_zone = @@time_zone, @weftex_go = NULL,"
              + " @weftex_why = NULL, @weftex_left = 0");
      statement("SET sql_mode = '" + MODE + "', time_zone = '+00:00'");
    }

    /** New tables and columns, which a server commits by itself. */
    void schema(Merge merge) throws IOException {
      statement(
          "CREATE TABLE IF NOT EXISTS "
              + ledger()
              + " (receipt VARCHAR(64) NOT NULL PRIMARY KEY, change_set CHAR(64) NOT NULL, kind"
              + " VARCHAR(8) NOT NULL, written_at VARCHAR(40) NOT NULL, seq BIGINT NULL,"
              + " receipt_sha256 CHAR(64) NULL) ENGINE=InnoDB");
      for (SchemaChange change : merge.schema()) {
        String name = prefix + change.table();
        String definition = definitions.get(change.table());
        if (change.column().isEmpty()) {
          line("-- A new table, which stays even if nothing else is written:");
          statement(definition.replaceFirst("^CREATE TABLE", "CREATE TABLE IF NOT EXISTS"));
          continue;
        }
        String column = change.column().get();
        line("-- A new column, which stays even if nothing else is written:");
        String alter =
            "ALTER TABLE "
                + MariaDbDump.quoted(name)
                + " ADD COLUMN "
                + definition(definition, column);
        statement(
            "SET @weftex_made = IF((SELECT COUNT(*) FROM information_schema.COLUMNS WHERE"
                + " TABLE_SCHEMA = DATABASE() AND TABLE_NAME = "
                + MariaDbDump.quotedText(name)
                + " AND COLUMN_NAME = "
                + MariaDbDump.quotedText(column)
                + ") = 0, "
                + MariaDbDump.quotedText(alter)
                + ", 'DO 0')");
        statement("PREPARE weftex_made FROM @weftex_made");
        statement("EXECUTE weftex_made");
        statement("DEALLOCATE PREPARE weftex_made");
      }
    }

    /** How the server defines a column, of the lines that define its table. */
    private String definition(String table, String column) {
      String begins = "  " + MariaDbDump.quoted(column) + " ";
      return table
          .lines()
          .filter(line -> line.startsWith(begins))
          .map(line -> line.strip().replaceFirst(",$", ""))
          .findFirst()
          .orElseThrow(() -> new IllegalStateException("no column " + column));
    }

    void guard(Merge merge, long last) throws IOException {
      statement("START TRANSACTION");
      statement("SET @weftex_go = 1");
      ask(
          "SELECT COUNT(*) INTO @weftex_n FROM "
              + ledger()
              + " WHERE receipt = "
              + MariaDbDump.quotedText(merge.entry().receipt())
              + " FOR UPDATE",
          0,
          "it ran before");
      ask(
          "SELECT COALESCE(MAX(seq), 0) INTO @weftex_n FROM " + ledger() + " FOR UPDATE",
          last,
          "something else was merged since the export");
    }

    void guardBack(Merge merge) throws IOException {
      statement("START TRANSACTION");
      statement("SET @weftex_go = 1");
      ask(
          "SELECT COUNT(*) INTO @weftex_n FROM "
              + ledger()
              + " WHERE receipt = "
              + MariaDbDump.quotedText(merge.entry().receipt())
              + " FOR UPDATE",
          1,
          "the changes are not made, or were taken back");
      ask(
          "SELECT COALESCE(MAX(seq), 0) INTO @weftex_n FROM " + ledger() + " FOR UPDATE",
          merge.entry().sequence(),
          "something else was merged since");
    }

    /**
     * Goes on only if a question has the answer that it must have. In one SET all variables are
     * read before the first is set, or one after the other, as the server has it: both are right
     * here.
     */
    private void ask(String question, long answer, String why) throws IOException {
      statement(question);
      told(answer, why);
    }

    private void told(long answer, String why) throws IOException {
      statement(
          "SET @weftex_why = IF(@weftex_go = 1 AND @weftex_n <> "
              + answer
              + ", "
              + MariaDbDump.quotedText(why)
              + ", @weftex_why), @weftex_go = IF(@weftex_go = 1 AND @weftex_n = "
              + answer
              + ", 1, @weftex_go * 0), @weftex_n = NULL");
    }

    void turns(Rows rows) throws IOException, Refusal {
      line("-- Every row as it was when the change set was reviewed:");
      checks(rows, true);
      line("-- The changes:");
      for (int i = 0; i < rows.size(); i++) {
        write(rows.turns().turn(i));
      }
      line("-- Every row as it was meant:");
      checks(rows, false);
    }

    /** Looks at rows, before or after they are written. */
    private void checks(Rows rows, boolean before) throws IOException, Refusal {
      List<Turn> some = new ArrayList<>();
      for (int i = 0; i < rows.size(); i++) {
        Turn turn = rows.turns().turn(i);
        boolean same =
            some.isEmpty()
                || some.get(0).table() == turn.table()
                    && isThere(some.get(0), before) == isThere(turn, before)
                    && some.size() < ROWS_AT_ONCE;
        if (!same) {
          check(some, before);
          some.clear();
        }
        some.add(turn);
      }
      if (!some.isEmpty()) {
        check(some, before);
      }
    }

    private boolean isThere(Turn turn, boolean before) {
      return turn.action() != (before ? Action.ADD : Action.REMOVE);
    }

    private void check(List<Turn> turns, boolean before) throws IOException, Refusal {
      Turn first = turns.get(0);
      boolean there = isThere(first, before);
      sql.put("SELECT COUNT(*) INTO @weftex_n FROM ")
          .put(MariaDbDump.quoted(first.table().realName()))
          .put(" WHERE ");
      for (int i = 0; i < turns.size(); i++) {
        Turn turn = turns.get(i);
        sql.put(i == 0 ? "(" : " OR (");
        key(turn);
        if (there) {
          Table shape = turn.table().table();
          for (Map.Entry<String, Value> cell : looked(turn, before).entrySet()) {
            Optional<Integer> at = shape.position(cell.getKey());
            if (at.isPresent() && !shape.key().contains(at.get())) {
              same(shape.columns().get(at.get()), cell.getValue());
            }
          }
        }
        sql.put(")");
      }
      sql.put(" FOR UPDATE");
      gathered();
      String which =
          first.table().realName()
              + " "
              + String.join("; ", turns.stream().map(turn -> turn.row().keyText()).toList());
      told(
          there ? turns.size() : 0,
          before
              ? "a row is not as it was at the export, among " + which
              : "a row is not as it was written (a trigger?), among " + which);
    }

    /** All that the row was; of an updated one, what was written. */
    private Map<String, Value> looked(Turn turn, boolean before) {
      return before
          ? turn.before()
          : turn.action() == Action.UPDATE ? only(turn.after(), moved(turn.row())) : turn.after();
    }

    private void key(Turn turn) {
      String and = "";
      Table shape = turn.table().table();
      for (Map.Entry<String, Value> cell : turn.row().key().entrySet()) {
        Column column = column(shape, cell.getKey());
        sql.put(and).put(quoted(column)).put(" = ");
        words.literal(sql, column, cell.getValue());
        and = " AND ";
      }
    }

    /** That a column holds a value, to the last byte. */
    private void same(Column column, Value value) {
      String type = column.type().toLowerCase(Locale.ROOT);
      if (column.generated() || type.startsWith("float")) {
        // A float is not what its digits say.
        return;
      }
      sql.put(" AND ");
      if (value.isNull()) {
        sql.put(quoted(column)).put(" IS NULL");
      } else if (value instanceof Value.Digest digest) {
        hash(column, digest);
      } else if (value instanceof Value.Text text && text.utf8().length > LONG) {
        hash(column, Value.Digest.of(text.utf8()));
      } else if (value instanceof Value.Text) {
        sql.put("CAST(CAST(").put(quoted(column)).put(" AS CHAR CHARACTER SET utf8mb4) AS BINARY)");
        sql.put(" = CAST(");
        words.literal(sql, column, value);
        sql.put(" AS BINARY)");
      } else if (value instanceof Value.Binary) {
        sql.put("CAST(").put(quoted(column)).put(" AS BINARY) = CAST(");
        words.literal(sql, column, value);
        sql.put(" AS BINARY)");
      } else {
        sql.put(quoted(column)).put(" = ");
        words.literal(sql, column, value);
      }
    }

    private void hash(Column column, Value.Digest digest) {
      boolean binary = column.kind() == ValueKind.BINARY;
      sql.put("SHA2(")
          .put(binary ? quoted(column) : "CONVERT(" + quoted(column) + " USING utf8mb4)")
          .put(", 256) = '")
          .put(digest.sha256())
          .put("'");
    }

    private void write(Turn turn) throws IOException, Refusal {
      Table shape = turn.table().table();
      String name = MariaDbDump.quoted(turn.table().realName());
      switch (turn.action()) {
        case ADD -> {
          List<Column> columns = new ArrayList<>();
          for (Column column : shape.columns()) {
            if (!column.generated() && turn.after().containsKey(column.name())) {
              columns.add(column);
            }
          }
          sql.put("INSERT INTO ").put(name).put(" (");
          sql.put(String.join(", ", columns.stream().map(MariaDbScript::quoted).toList()));
          sql.put(") SELECT ");
          for (int i = 0; i < columns.size(); i++) {
            sql.put(i == 0 ? "" : ", ");
            literal(turn, columns.get(i), turn.after().get(columns.get(i).name()));
          }
          sql.put(" FROM DUAL WHERE @weftex_go = 1");
        }
        case UPDATE -> {
          sql.put("UPDATE ").put(name).put(" SET ");
          String comma = "";
          for (String moved : moved(turn.row())) {
            Column column = column(shape, moved);
            sql.put(comma).put(quoted(column)).put(" = ");
            literal(turn, column, turn.after().get(moved));
            comma = ", ";
          }
          for (Column column : shape.columns()) {
            // What the server would touch by itself stays, unless it is written.
            if (column.touched() && !moved(turn.row()).contains(column.name())) {
              sql.put(comma).put(quoted(column)).put(" = ").put(quoted(column));
            }
          }
          sql.put(" WHERE ");
          key(turn);
          sql.put(" AND @weftex_go = 1");
        }
        case REMOVE -> {
          sql.put("DELETE FROM ").put(name).put(" WHERE ");
          key(turn);
          sql.put(" AND @weftex_go = 1");
        }
      }
      gathered();
      written(turn.table().realName() + " " + turn.row().keyText());
    }

    private void literal(Turn turn, Column column, Value value) throws Refusal {
      if (value instanceof Value.Digest) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            "The value of "
                + column.name()
                + " in "
                + turn.table().realName()
                + " "
                + turn.row().keyText()
                + " is too long to be kept whole in a receipt. Nothing was written.",
            "Write the whole copy with 'weftex apply -o'.");
      }
      words.literal(sql, column, value);
    }

    /** Goes on only if one row was written. */
    private void written(String which) throws IOException {
      statement(
          "SET @weftex_why = IF(@weftex_go = 1 AND ROW_COUNT() <> 1, "
              + MariaDbDump.quotedText("the server refused to write " + which)
              + ", @weftex_why), @weftex_go = IF(@weftex_go = 1 AND ROW_COUNT() = 1, 1, @weftex_go * 0)");
    }

    void write(String text) throws IOException {
      statement(text);
      written("the ledger");
    }

    /** A counter moves by as much; what else follows is written where it is as it was. */
    void follow(Effect effect, boolean back) throws IOException, Refusal {
      CatalogTable table = table(effect.table());
      Map<String, Value> before = back ? effect.after() : effect.before();
      Map<String, Value> after = back ? effect.before() : effect.after();
      Action action =
          before.isEmpty() ? Action.ADD : after.isEmpty() ? Action.REMOVE : Action.UPDATE;
      Turn turn =
          new Turn(
              action,
              table,
              new ReceiptRows.Touched(0, action, effect.table(), effect.key(), before, after));
      if (action != Action.UPDATE) {
        makeOrRemove(turn);
        return;
      }
      for (Map.Entry<String, Value> cell : after.entrySet()) {
        Column column = column(table.table(), cell.getKey());
        Value was = before.get(cell.getKey());
        sql.put("UPDATE ")
            .put(MariaDbDump.quoted(table.realName()))
            .put(" SET ")
            .put(quoted(column))
            .put(" = ");
        boolean counts = was instanceof Value.Whole && cell.getValue() instanceof Value.Whole;
        if (counts) {
          sql.put(quoted(column))
              .put(" + (")
              .put(cell.getValue().display())
              .put(" - ")
              .put(was.display())
              .put(")");
        } else {
          literal(turn, column, cell.getValue());
        }
        sql.put(" WHERE ");
        key(turn);
        if (!counts) {
          same(column, was);
        }
        sql.put(" AND @weftex_go = 1");
        gathered();
        left();
      }
    }

    private void makeOrRemove(Turn turn) throws IOException, Refusal {
      Table shape = turn.table().table();
      if (turn.action() == Action.REMOVE) {
        sql.put("DELETE FROM ").put(MariaDbDump.quoted(turn.table().realName())).put(" WHERE ");
        key(turn);
        sql.put(" AND @weftex_go = 1");
      } else {
        List<Column> columns = new ArrayList<>();
        turn.after().keySet().forEach(name -> columns.add(column(shape, name)));
        sql.put("INSERT IGNORE INTO ").put(MariaDbDump.quoted(turn.table().realName())).put(" (");
        sql.put(String.join(", ", columns.stream().map(MariaDbScript::quoted).toList()));
        sql.put(") SELECT ");
        for (int i = 0; i < columns.size(); i++) {
          sql.put(i == 0 ? "" : ", ");
          literal(turn, columns.get(i), turn.after().get(columns.get(i).name()));
        }
        sql.put(" FROM DUAL WHERE @weftex_go = 1");
      }
      gathered();
      left();
    }

    /**
     * A counter or cache that could not be set is no reason to stop, and is said; an error is one.
     */
    private void left() throws IOException {
      statement(
          "SET @weftex_left = @weftex_left + (@weftex_go = 1 AND ROW_COUNT() = 0), @weftex_go ="
              + " IF(@weftex_go = 1 AND ROW_COUNT() < 0, 0, @weftex_go)");
    }

    void end(String done) throws IOException {
      statement("SET @weftex_end = IF(@weftex_go = 1, 'COMMIT', 'DO 0')");
      statement("PREPARE weftex_end FROM @weftex_end");
      statement("EXECUTE weftex_end");
      statement("DEALLOCATE PREPARE weftex_end");
      // After a commit there is nothing left to roll back.
      statement("ROLLBACK");
      statement("SET sql_mode = @weftex_mode, time_zone = @weftex_zone");
      statement(
          "SELECT CASE WHEN @weftex_go = 1 THEN CONCAT('done: "
              + done
              + "', IF(@weftex_left > 0, CONCAT('; counters or caches that were not as expected: ',"
              + " @weftex_left), '')) WHEN @weftex_go IS NULL THEN 'nothing was changed: not all"
              + " statements came over one connection' ELSE CONCAT('nothing was changed: ',"
              + " COALESCE(@weftex_why, 'a statement failed')) END AS weftex");
    }
  }
}
