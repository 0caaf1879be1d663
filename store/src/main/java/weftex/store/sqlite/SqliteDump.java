package weftex.store.sqlite;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.dump.DumpDialect;
import weftex.store.dump.Restoring;
import weftex.store.dump.SavedContents;
import weftex.store.sqltext.SqlOut;
import weftex.store.state.Files0600;

/** An SQLite copy as plain SQL. */
public final class SqliteDump implements DumpDialect {

  @Override
  public boolean isFor(CopySpec spec) {
    return spec instanceof CopySpec.SqliteFile;
  }

  @Override
  public String client(CopySpec spec) {
    return "sqlite3 FILE";
  }

  @Override
  public boolean escapesByBackslash() {
    return false;
  }

  @Override
  public boolean hasDelimiters() {
    return false;
  }

  @Override
  public List<String> first() {
    return List.of("PRAGMA foreign_keys = OFF", "BEGIN TRANSACTION");
  }

  @Override
  public List<String> last() {
    return List.of("COMMIT");
  }

  @Override
  public SavedContents contents(Connection connection, CopySpec spec) throws SQLException {
    return SqliteContents.of(connection, spec);
  }

  @Override
  public void literal(SqlOut out, Column column, Value value) {
    if (value.isNull()) {
      out.put("NULL");
    } else if (value instanceof Value.Whole) {
      out.put(value.display());
    } else if (value instanceof Value.Decimal decimal) {
      out.put(real(decimal.digits()));
    } else if (value instanceof Value.Text text) {
      String said = text.display();
      if (text.isWellFormed() && said.indexOf(0) < 0) {
        text(out, said);
      } else {
        out.put("CAST(X'").hex(text.utf8()).put("' AS TEXT)");
      }
    } else if (value instanceof Value.Binary binary) {
      out.put("X'").hex(binary.bytes()).put("'");
    } else {
      throw new IllegalArgumentException("can't be written: " + value);
    }
  }

  private static String real(String digits) {
    return switch (digits) {
      case "Infinity" -> "9e999";
      case "-Infinity" -> "-9e999";
      default -> digits;
    };
  }

  /** The shell of SQLite reads line by line; a line end within a text is written as its code. */
  private static void text(SqlOut out, String text) {
    if (text.indexOf('\n') < 0 && text.indexOf('\r') < 0) {
      out.put(quotedText(text));
      return;
    }
    String feed = absent(text, "\\n");
    String back = absent(text, "\\r");
    out.put("replace(replace(")
        .put(quotedText(text.replace("\n", feed).replace("\r", back)))
        .put(", '")
        .put(feed)
        .put("', char(10)), '")
        .put(back)
        .put("', char(13))");
  }

  private static String absent(String text, String mark) {
    String free = mark;
    for (int i = 0; text.contains(free); i++) {
      free = mark + i + ".";
    }
    return free;
  }

  static String quotedText(String text) {
    return "'" + text.replace("'", "''") + "'";
  }

  static String quoted(String name) {
    return "\"" + name.replace("\"", "\"\"") + "\"";
  }

  @Override
  public void makeScratch(CopySpec scratch) throws Refusal {
    Path file = ((CopySpec.SqliteFile) scratch).file();
    try {
      Files0600.createFolder(file.getParent());
      if (!Files.exists(file)) {
        Files0600.create(file).close();
      }
    } catch (IOException e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          file + " can't be made: " + FailureWords.of(e) + ". Nothing was changed.",
          "Make room for it, and see to the permissions of its folder.",
          e);
    }
  }

  @Override
  public void dropScratch(CopySpec scratch) throws Refusal {
    try {
      Files.deleteIfExists(((CopySpec.SqliteFile) scratch).file());
    } catch (IOException e) {
      // An empty one does no harm.
      return;
    }
  }

  @Override
  public void emptyScratch(Connection connection) throws SQLException {
    List<String> drops = new ArrayList<>();
    try (Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA foreign_keys = OFF");
      try (ResultSet rows =
          statement.executeQuery(
              "SELECT type, name FROM sqlite_master WHERE type IN ('table', 'view') AND name NOT LIKE"
                  + " 'sqlite\\_%' ESCAPE '\\'")) {
        while (rows.next()) {
          drops.add("DROP " + rows.getString(1) + " " + quoted(rows.getString(2)));
        }
      }
      for (String drop : drops) {
        statement.execute(drop);
      }
    }
  }

  @Override
  public Restoring restoring(CopySpec spec) {
    return new SqliteRestoring((CopySpec.SqliteFile) spec);
  }
}
