package weftex.store.mariadb;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import weftex.core.change.SchemaChange;
import weftex.store.Refusal;
import weftex.store.copy.Catalog;
import weftex.store.copy.CatalogTable;
import weftex.store.copy.Ledger;
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
  /** What every write hangs on. */
  static final String IF_GOING = " AND @weftex_go = 1";

  private static final int ROWS_AT_ONCE = 40;

  private static final String MODE =
      "STRICT_ALL_TABLES,NO_AUTO_VALUE_ON_ZERO,ALLOW_INVALID_DATES,NO_ENGINE_SUBSTITUTION";

  private final Catalog catalog;
  private final String prefix;
  private final Map<String, String> definitions;

  /** Takes the statement that was gathered. */
  interface Next {
    void next() throws IOException;
  }

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

  @Override
  public void write(Merge merge, OutputStream out) throws IOException, Refusal {
    Script script = new Script(out);
    script.begin(merge, "makes the changes");
    script.schema(merge);
    script.guard(
        merge, 0, "it ran before", merge.ledger(), "something else was merged since the export");
    script.rows(merge, false);
    Ledger.Entry entry = merge.entry();
    script.statement(
        "INSERT INTO "
            + ledger()
            + " (receipt, change_set, kind, written_at, seq, receipt_sha256) SELECT "
            + text(entry.receipt())
            + ", "
            + text(entry.changeSet())
            + ", 'apply', "
            + text(entry.writtenAt())
            + ", "
            + entry.sequence()
            + ", "
            + entry.hash().map(MariaDbScript::text).orElse("NULL")
            + " FROM DUAL WHERE @weftex_go = 1");
    script.written("the ledger", 1);
    script.end("the changes are made");
  }

  @Override
  public void writeBack(Merge merge, OutputStream out) throws IOException, Refusal {
    Script script = new Script(out);
    script.begin(merge, "takes the changes back");
    script.guard(
        merge,
        1,
        "the changes are not made, or were taken back",
        merge.entry().sequence(),
        "something else was merged since");
    script.rows(merge, true);
    script.statement(
        "DELETE FROM " + ledger() + " WHERE receipt = " + text(merge.entry().receipt()) + IF_GOING);
    script.written("the ledger", 1);
    script.end("the changes are taken back");
  }

  private String ledger() {
    return MariaDbDump.quoted(prefix + Catalog.LEDGER);
  }

  private static String text(String words) {
    return MariaDbDump.quotedText(words);
  }

  private CatalogTable table(String name) {
    return catalog
        .find(name)
        .orElseThrow(() -> new IllegalStateException("no table " + name + " is known"));
  }

  /** A row in the order of writing; backwards, and turned round, for taking back. */
  private ScriptRow row(Merge merge, int index, boolean back) throws IOException, Refusal {
    ReceiptRows.Touched row = merge.rows().get(back ? merge.rows().size() - 1 - index : index);
    CatalogTable table = table(row.table());
    if (!table.table().hasKey()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The table "
              + table.realName()
              + " has no key, so a script can't tell its rows apart. Nothing was written.",
          "Leave the table out, or write the whole copy with 'weftex apply -o'.");
    }
    ScriptRow made = ScriptRow.of(row, table);
    return back ? made.back() : made;
  }

  /** Rows of one table, as a person reads them. */
  private static String named(List<ScriptRow> rows) {
    return rows.get(0).table().realName()
        + " "
        + String.join("; ", rows.stream().map(ScriptRow::keyText).toList());
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

    void statement(String text) throws IOException {
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
        String definition = definitions.get(change.table());
        line("-- It stays even if nothing else is written: " + change.item().words());
        if (change.column().isEmpty()) {
          statement(definition.replaceFirst("^CREATE TABLE", "CREATE TABLE IF NOT EXISTS"));
        } else {
          column(prefix + change.table(), change.column().get(), definition);
        }
      }
    }

    /** A column that is made unless it is there. */
    private void column(String table, String column, String definition) throws IOException {
      String begins = "  " + MariaDbDump.quoted(column) + " ";
      String defined =
          definition
              .lines()
              .filter(line -> line.startsWith(begins))
              .map(line -> line.strip().replaceFirst(",$", ""))
              .findFirst()
              .orElseThrow(() -> new IllegalStateException("no column " + column));
      statement(
          "SET @weftex_made = IF((SELECT COUNT(*) FROM information_schema.COLUMNS WHERE"
              + " TABLE_SCHEMA = DATABASE() AND TABLE_NAME = "
              + text(table)
              + " AND COLUMN_NAME = "
              + text(column)
              + ") = 0, "
              + text("ALTER TABLE " + MariaDbDump.quoted(table) + " ADD COLUMN " + defined)
              + ", 'DO 0')");
      execute("weftex_made");
    }

    private void execute(String variable) throws IOException {
      statement("PREPARE " + variable + " FROM @" + variable);
      statement("EXECUTE " + variable);
      statement("DEALLOCATE PREPARE " + variable);
    }

    /**
     * Begins, if the ledger is as it must be.
     *
     * @param entries how many entries of this merge there must be
     * @param last the last place in its order
     */
    void guard(Merge merge, long entries, String unless, long last, String orElse)
        throws IOException {
      statement("START TRANSACTION");
      statement("SET @weftex_go = 1");
      statement(
          "SELECT COUNT(*) INTO @weftex_n FROM "
              + ledger()
              + " WHERE receipt = "
              + text(merge.entry().receipt())
              + " FOR UPDATE");
      told(entries, unless);
      statement("SELECT COALESCE(MAX(seq), 0) INTO @weftex_n FROM " + ledger() + " FOR UPDATE");
      told(last, orElse);
    }

    /**
     * Goes on only if what was asked has the answer that it must have. In one SET all variables are
     * read before the first is set, or one after the other, as the server has it: both are right
     * here. After an error the answer is still NULL.
     */
    private void told(long answer, String why) throws IOException {
      statement(
          "SET @weftex_why = IF(@weftex_go = 1 AND @weftex_n <> "
              + answer
              + ", "
              + text(why)
              + ", @weftex_why), @weftex_go = IF(@weftex_go = 1 AND @weftex_n = "
              + answer
              + ", 1, @weftex_go * 0), @weftex_n = NULL");
    }

    /** Goes on only if so many rows were written. */
    void written(String which, int rows) throws IOException {
      statement(
          "SET @weftex_why = IF(@weftex_go = 1 AND ROW_COUNT() <> "
              + rows
              + ", "
              + text("the server refused to write " + which)
              + ", @weftex_why), @weftex_go = IF(@weftex_go = 1 AND ROW_COUNT() = "
              + rows
              + ", 1, @weftex_go * 0)");
    }

    void rows(Merge merge, boolean back) throws IOException, Refusal {
      line("-- Every row as it was:");
      checks(merge, back, true);
      line("-- The changes:");
      List<ScriptRow> updates = new ArrayList<>();
      for (int i = 0; i < merge.rows().size(); i++) {
        ScriptRow row = row(merge, i, back);
        if (row.isNothing()) {
          continue;
        }
        boolean together =
            !updates.isEmpty() && updates.size() < ROWS_AT_ONCE && row.goesWith(updates.get(0));
        if (!together) {
          update(updates);
        }
        if (together || row.goesWith(row)) {
          updates.add(row);
        } else {
          row.write(sql);
          gathered();
          written(row.words(), 1);
        }
      }
      update(updates);
      line("-- Every row as it was meant:");
      checks(merge, back, false);
      for (Effect effect : merge.rows().effects()) {
        ScriptRow follows = ScriptRow.of(effect, table(effect.table()));
        (back ? follows.back() : follows).follow(sql, this::left);
      }
    }

    /** Writes what was gathered, in one statement. */
    private void update(List<ScriptRow> rows) throws IOException, Refusal {
      if (!rows.isEmpty()) {
        ScriptRow.update(sql, rows);
        gathered();
        written(named(rows), rows.size());
        rows.clear();
      }
    }

    /**
     * A counter or cache that could not be set is no reason to stop, and is said; an error is one.
     */
    private void left() throws IOException {
      gathered();
      statement(
          "SET @weftex_left = @weftex_left + (@weftex_go = 1 AND ROW_COUNT() = 0), @weftex_go ="
              + " IF(@weftex_go = 1 AND ROW_COUNT() < 0, 0, @weftex_go)");
    }

    /**
     * Looks at all rows, some at a time.
     *
     * @param first whether it is before they are written
     */
    private void checks(Merge merge, boolean back, boolean first) throws IOException, Refusal {
      List<ScriptRow> some = new ArrayList<>();
      for (int i = 0; i < merge.rows().size(); i++) {
        ScriptRow row = row(merge, i, back);
        boolean another =
            !some.isEmpty()
                && (some.get(0).table() != row.table()
                    || some.get(0).isThere(first) != row.isThere(first)
                    || some.size() == ROWS_AT_ONCE);
        if (another) {
          check(some, first);
          some.clear();
        }
        some.add(row);
      }
      if (!some.isEmpty()) {
        check(some, first);
      }
    }

    private void check(List<ScriptRow> rows, boolean first) throws IOException {
      String table = rows.get(0).table().realName();
      sql.put("SELECT COUNT(*) INTO @weftex_n FROM ").put(MariaDbDump.quoted(table));
      String or = " WHERE (";
      for (ScriptRow row : rows) {
        sql.put(or);
        row.isAs(sql, first);
        or = ") OR (";
      }
      sql.put(") FOR UPDATE");
      gathered();
      told(
          rows.get(0).isThere(first) ? rows.size() : 0,
          (first
                  ? "a row is not as it was at the export, among "
                  : "a row is not as it was written (a trigger?), among ")
              + named(rows));
    }

    void end(String done) throws IOException {
      statement("SET @weftex_end = IF(@weftex_go = 1, 'COMMIT', 'DO 0')");
      execute("weftex_end");
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
