package weftex.store.script;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import weftex.core.change.SchemaChange;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.receipt.Effect;
import weftex.store.receipt.ReceiptRows;
import weftex.store.rows.Ledger;
import weftex.store.sqltext.SqlOut;

/**
 * Writes an applied merge as a script that guards itself, for a place that only imports files: it
 * writes all of the merge or nothing, also where statements come one by one, errors are passed
 * over, or the connection is another one half-way. It compares every row with what it was, writes,
 * and compares with what was meant; every write hangs on a guard that falls at the first thing that
 * is otherwise.
 */
public final class MergeScript {
  private static final int ROWS_AT_ONCE = 40;

  /** Bytes of a comparison, above which it takes no more rows. */
  private static final int COMPARED_AT_ONCE = 1 << 20;

  private final Copy copy;
  private final String ledger;
  private final ScriptWords words;

  /**
   * A merge that was made on rows loaded from a file.
   *
   * @param about what it is, for the reader: lines of a comment
   * @param entry the ledger's, by which the next export tells that the script ran
   * @param ledger the ledger as the file has it: its last place in the order
   * @param schema new tables and columns
   * @param rows what was touched, before and after
   */
  public record Merge(
      List<String> about,
      Ledger.Entry entry,
      long ledger,
      List<SchemaChange> schema,
      ReceiptRows rows) {}

  /** Takes the statement that was gathered. */
  interface Next {
    void next() throws IOException;
  }

  /**
   * @param copy with the merge made on it
   */
  public MergeScript(Copy copy) {
    this.copy = copy;
    this.words = ScriptWords.of(copy.spec());
    this.ledger = words.quoted(copy.spec().prefix() + Catalog.LEDGER);
  }

  /**
   * Writes the script that makes it.
   *
   * @throws Refusal if a value is not known whole
   */
  public void write(Merge merge, OutputStream out) throws IOException, Refusal {
    Script script = new Script(out);
    script.begin(merge, "makes the changes");
    script.statement(copy.makingLedger());
    if (staysMade()) {
      script.schema(merge);
    }
    script.guard(
        merge, 0, "it ran before", merge.ledger(), "something else was merged since the export");
    if (!staysMade()) {
      script.schema(merge);
    }
    script.rows(merge, false);
    Ledger.Entry entry = merge.entry();
    script.statement(
        "INSERT INTO "
            + ledger
            + " (receipt, change_set, kind, written_at, seq, receipt_sha256) SELECT "
            + words.text(entry.receipt())
            + ", "
            + words.text(entry.changeSet())
            + ", 'apply', "
            + words.text(entry.writtenAt())
            + ", "
            + entry.sequence()
            + ", "
            + entry.hash().map(words::text).orElse("NULL")
            + words.whereGoing());
    script.written("the ledger", 1);
    script.statements(words.last(ledger, entryOf(merge), true, "the changes are made"));
  }

  /** Writes the script that takes it back, where nothing of it was changed since. */
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
    script.statement("DELETE FROM " + ledger + " WHERE " + entryOf(merge) + words.ifGoing());
    script.written("the ledger", 1);
    script.statements(words.last(ledger, entryOf(merge), false, "the changes are taken back"));
  }

  /** Whether new tables and columns stay even if nothing else is written. */
  public boolean staysMade() {
    return !words.makesInside();
  }

  private String entryOf(Merge merge) {
    return "receipt = " + words.text(merge.entry().receipt());
  }

  private CatalogTable table(String name) {
    return copy.catalog()
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
    ScriptRow made = ScriptRow.of(words, row, table);
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

    void statements(List<String> some) throws IOException {
      for (String one : some) {
        statement(one);
      }
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
      statements(words.first());
    }

    void schema(Merge merge) throws IOException, Refusal {
      for (SchemaChange change : merge.schema()) {
        line(
            "-- "
                + (staysMade() ? "It stays even if nothing else is written: " : "")
                + change.item().words());
        statements(
            words.ifAbsent(
                copy.making(change),
                copy.spec().prefix() + change.table(),
                change.column().orElse("")));
      }
    }

    /**
     * Begins, if the ledger is as it must be.
     *
     * @param entries how many entries of this merge there must be
     * @param last the last place in its order
     */
    void guard(Merge merge, long entries, String unless, long last, String orElse)
        throws IOException {
      statements(words.opening());
      statement(words.asks("COUNT(*)") + ledger + " WHERE " + entryOf(merge) + words.asked());
      statements(words.told(entries, unless));
      statement(words.asks("COALESCE(MAX(seq), 0)") + ledger + words.asked());
      statements(words.told(last, orElse));
    }

    /** Goes on only if so many rows were written. */
    void written(String which, int rows) throws IOException {
      statements(words.written(rows, "the server refused to write " + which));
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
          written(row.name(), 1);
        }
      }
      update(updates);
      line("-- Every row as it was meant:");
      checks(merge, back, false);
      for (Effect effect : merge.rows().effects()) {
        ScriptRow follows = ScriptRow.of(words, effect, table(effect.table()));
        (back ? follows.back() : follows).follow(sql, this::followed);
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

    private void followed() throws IOException {
      gathered();
      statements(words.followed());
    }

    /**
     * Looks at all rows, some at a time.
     *
     * @param first whether it is before they are written
     */
    private void checks(Merge merge, boolean back, boolean first) throws IOException, Refusal {
      try (WholeRows copied = new WholeRows(copy)) {
        checks(merge, back, first, copied);
      }
    }

    private void checks(Merge merge, boolean back, boolean first, WholeRows copied)
        throws IOException, Refusal {
      List<ScriptRow> some = new ArrayList<>();
      for (int i = 0; i < merge.rows().size(); i++) {
        ScriptRow row = row(merge, i, back);
        if (first && !words.comparesDigests()) {
          row = copied.whole(row);
        }
        boolean byColumn = row.isComparedWith(row, first);
        boolean another =
            !some.isEmpty()
                && (some.get(0).table() != row.table()
                    || some.get(0).isThere(first) != row.isThere(first)
                    || some.get(0).isComparedWith(some.get(0), first) != byColumn
                    || byColumn && !row.isComparedWith(some.get(0), first)
                    || some.size() == ROWS_AT_ONCE
                    || sql.size() > COMPARED_AT_ONCE);
        if (another) {
          checked(some, first);
        }
        if (!byColumn) {
          String table = words.quoted(row.table().realName());
          sql.put(some.isEmpty() ? words.counts(table) : words.orCounts(table));
          row.isAs(sql, first);
        }
        some.add(row);
      }
      if (!some.isEmpty()) {
        checked(some, first);
      }
    }

    /** Ends a comparison, and forgets its rows. */
    private void checked(List<ScriptRow> rows, boolean first) throws IOException {
      if (rows.get(0).isComparedWith(rows.get(0), first)) {
        sql.put(words.counts(words.quoted(rows.get(0).table().realName())));
        ScriptRow.areAs(sql, rows, first);
      }
      sql.put(words.counted());
      gathered();
      statements(
          words.told(
              rows.get(0).isThere(first) ? rows.size() : 0,
              (first
                      ? "a row is not as it was at the export, among "
                      : "a row is not as it was written (a trigger?), among ")
                  + named(rows)));
      rows.clear();
    }
  }
}
