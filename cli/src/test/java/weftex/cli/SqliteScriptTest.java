package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** A merge as a script for SQLite, imported as clients do it. */
class SqliteScriptTest {
  private static final String ONE_CONNECTION =
      "nothing was changed: not all statements came over one connection, or the client had begun a"
          + " transaction";

  private static final List<String> TABLES =
      List.of("accounts", "bookings", "comments", "menu_entries", "pages", "settings", "tides");

  @TempDir Path folder;
  private PanelSite panel;
  private SqliteFile staging;
  private SqliteFile live;

  /** What a client does at an error. */
  enum Way {
    STOPS,
    GOES_ON
  }

  @BeforeEach
  void aWeekAndAScript() throws Exception {
    panel = new PanelSite(folder);
    staging = new SqliteFile(folder.resolve("staging.db"));
    live = new SqliteFile(folder.resolve("live.db"));
    for (SqliteFile copy : List.of(staging, live)) {
      copy.run(
          "CREATE TABLE skf_tides (harbour TEXT COLLATE NOCASE, day INT, slot INT UNIQUE, height REAL,"
              + " note, PRIMARY KEY (harbour, day)) WITHOUT ROWID");
      copy.run(
          "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 100) INSERT INTO"
              + " skf_tides SELECT CASE WHEN i % 2 THEN 'Hesk' ELSE 'Norrey' END, i, i, i / 7.0, CASE i % 4"
              + " WHEN 0 THEN 'low ' || i WHEN 1 THEN i WHEN 2 THEN CAST('b' || i AS BLOB) END FROM n");
    }
    panel.export();
    done("mark");
    panel.site.week();
    staging.run("CREATE TABLE skf_gauges (id INT PRIMARY KEY, name TEXT)");
    staging.run("INSERT INTO skf_gauges VALUES (1, 'pier')");
    staging.run("ALTER TABLE skf_routes ADD COLUMN kiosk TEXT NOT NULL DEFAULT 'none'");
    staging.run("UPDATE skf_routes SET kiosk = 'it''s' WHERE id = 1");
    // Of each type, to another type, and what must be unique in a new order.
    staging.run(
        "UPDATE skf_tides SET height = height * 1.1, note = CASE day % 5 WHEN 0 THEN CAST(note AS TEXT) ||"
            + " char(10) || ' \\ ''é' WHEN 1 THEN 0.1 * day WHEN 2 THEN x'00ff27' WHEN 3 THEN day END WHERE day <="
            + " 90");
    staging.run("UPDATE skf_tides SET slot = slot + 200 WHERE day > 80");
    panel.export();
    new Program(folder).run("draft", "--tables", "*");
    new Program(folder).run("review", "--take", "conflicts");
    new Program(folder).run("review", "--skip", "conflicts");
    done("review", "--approve");
    Program.Ran written = done("apply", "--script", "merge.sql");
    assertThat(written.out())
        .contains("Written for import staging → live", "Next: import merge.sql");
    assertThat(written.err()).contains("Wrote merge.sql (").doesNotContain("commits by itself");
  }

  private Program.Ran done(String... arguments) {
    Program.Ran ran = new Program(folder).run(arguments);
    assertThat(ran.status()).as(ran.out() + ran.err()).isZero();
    return ran;
  }

  /** Imports over one connection, and gives the first column of the last row that was shown. */
  private String imported(String file, Way way) throws Exception {
    try (Connection connection = panel.connection()) {
      return imported(file, way, connection);
    }
  }

  private String imported(String file, Way way, Connection connection) throws Exception {
    String[] said = {""};
    try (Statement statement = connection.createStatement()) {
      panel.each(file, sql -> said[0] = shown(statement, sql, said[0], way));
    } catch (SQLException e) {
      assertThat(way).as("stopped: " + e.getMessage()).isEqualTo(Way.STOPS);
    }
    return said[0];
  }

  private static String shown(Statement statement, String sql, String before, Way way)
      throws SQLException {
    try {
      if (!statement.execute(sql)) {
        return before;
      }
      try (ResultSet rows = statement.getResultSet()) {
        return rows.next() ? rows.getString(1) : before;
      }
    } catch (SQLException e) {
      if (way == Way.STOPS) {
        throw e;
      }
      return before;
    }
  }

  /** What the site's tables hold, each value as SQLite writes it with its type. */
  private String content(SqliteFile copy) throws Exception {
    StringBuilder all = new StringBuilder();
    for (String table : TABLES) {
      String columns =
          String.join(
              " || '|' || ",
              copy.ask(
                  "SELECT 'quote(\"' || name || '\")' FROM pragma_table_info('skf_"
                      + table
                      + "')"));
      all.append(copy.ask("SELECT " + columns + " FROM skf_" + table + " ORDER BY 1")).append('\n');
    }
    return all.toString();
  }

  /** The tables too, and what made them. */
  private String all() throws Exception {
    return content(live) + live.ask("SELECT sql FROM sqlite_master WHERE name NOT LIKE '%ledger%'");
  }

  @ParameterizedTest
  @EnumSource(Way.class)
  void itMakesAllChangesOnceAndTheUndoTakesThemBack(Way way) throws Exception {
    live.run(
        "INSERT INTO skf_comments (page_id, author, body, written_at) VALUES (1, 'Kari', 'Open?',"
            + " '2026-11-28 10:00:00')");
    String before = content(live);
    assertThat(imported("merge.sql", way)).isEqualTo("done: the changes are made");
    String tides = "SELECT day || slot || quote(height) || quote(note) FROM skf_tides ORDER BY day";
    assertThat(live.ask(tides)).isEqualTo(staging.ask(tides));
    assertThat(live.ask("SELECT kiosk FROM skf_routes WHERE id = 1")).containsExactly("it's");
    assertThat(live.ask("SELECT name FROM skf_gauges")).containsExactly("pier");
    assertThat(live.ask("SELECT title FROM skf_pages WHERE slug = 'winter-hesk'")).hasSize(1);
    String merged = all();
    assertThat(imported("merge.sql", way)).isEqualTo("nothing was changed: it ran before");
    assertThat(all()).isEqualTo(merged);
    assertThat(imported("merge-undo.sql", way)).isEqualTo("done: the changes are taken back");
    assertThat(content(live)).isEqualTo(before);
    assertThat(imported("merge-undo.sql", way))
        .isEqualTo("nothing was changed: the changes are not made, or were taken back");
    // The column is still there, so that a client that stops at errors goes no further.
    assertThat(imported("merge.sql", Way.GOES_ON)).isEqualTo("done: the changes are made");
  }

  @Test
  void onALiveThatMovedNothingIsWritten() throws Exception {
    for (String move :
        List.of(
            "UPDATE skf_tides SET note = CAST(note AS TEXT) WHERE day = 33",
            "UPDATE skf_tides SET height = height + 1e-9 WHERE day = 40",
            "UPDATE skf_tides SET note = CAST(note AS BLOB) WHERE day = 44",
            "DELETE FROM skf_tides WHERE day = 50")) {
      live.run(move);
      String before = all();
      for (Way way : Way.values()) {
        assertThat(imported("merge.sql", way))
            .as(move)
            .startsWith(
                "nothing was changed: a row is not as it was at the export, among skf_tides ");
        assertThat(all()).as(move).isEqualTo(before);
      }
    }
  }

  @Test
  void whatTheDatabaseRefusesOrAltersTakesEverythingBack() throws Exception {
    for (String trouble :
        List.of(
            "CREATE UNIQUE INDEX one_note ON skf_pages (length(slug) > 0) WHERE slug = 'winter-hesk' OR id = 1",
            "CREATE TRIGGER loud AFTER UPDATE ON skf_tides BEGIN UPDATE skf_tides SET note = 'loud' WHERE day"
                + " = NEW.day; END",
            "CREATE TRIGGER never BEFORE UPDATE ON skf_tides BEGIN SELECT RAISE(ROLLBACK, 'never'); END")) {
      live.run(trouble);
      String before = all();
      for (Way way : Way.values()) {
        assertThat(imported("merge.sql", way)).as(trouble).doesNotStartWith("done");
        assertThat(all()).as(trouble).isEqualTo(before);
      }
      String name = trouble.replaceAll("^CREATE (UNIQUE )?(\\w+) (\\w+) .*", "$2 $3");
      live.run("DROP " + name);
    }
    assertThat(imported("merge.sql", Way.STOPS)).startsWith("done");
  }

  @Test
  void whereEachStatementHasAConnectionOfItsOwnNoRowIsWritten() throws Exception {
    String before = content(live);
    String[] said = {""};
    panel.each(
        "merge.sql",
        sql -> {
          try (Connection connection = panel.connection();
              Statement statement = connection.createStatement()) {
            said[0] = shown(statement, sql, said[0], Way.GOES_ON);
          }
        });
    assertThat(said[0]).isEqualTo(ONE_CONNECTION);
    assertThat(content(live)).isEqualTo(before);
  }

  @Test
  void whereTheConnectionIsLostHalfWayNothingIsWritten() throws Exception {
    String before = content(live);
    int[] count = {0};
    panel.each("merge.sql", sql -> count[0]++);
    for (int lost = 3; lost < count[0] - 6; lost += count[0] / 17) {
      assertThat(lostAt(lost)).as("lost at " + lost).isEqualTo(ONE_CONNECTION);
      assertThat(content(live)).as("lost at " + lost + " of " + count[0]).isEqualTo(before);
    }
    // The last statement but one comes after all is done.
    assertThat(lostAt(count[0] - 1)).isEqualTo("done: the changes are made");
    assertThat(imported("merge.sql", Way.GOES_ON)).isEqualTo("nothing was changed: it ran before");
  }

  /** Imports over two connections, of which the second takes over at a statement. */
  private String lostAt(int statement) throws Exception {
    Connection[] now = {panel.connection()};
    int[] at = {0};
    String[] said = {""};
    panel.each(
        "merge.sql",
        sql -> {
          if (++at[0] == statement) {
            now[0].close();
            now[0] = panel.connection();
          }
          try (Statement each = now[0].createStatement()) {
            said[0] = shown(each, sql, said[0], Way.GOES_ON);
          }
        });
    now[0].close();
    return said[0];
  }

  @Test
  void whileSomebodyWritesItWaitsForAnotherTime() throws Exception {
    assertThat(imported("merge.sql", Way.STOPS)).startsWith("done");
    assertThat(imported("merge-undo.sql", Way.STOPS)).startsWith("done");
    String before = all();
    try (Connection visitor = panel.connection();
        Statement statement = visitor.createStatement()) {
      statement.execute("BEGIN IMMEDIATE");
      statement.execute("UPDATE skf_settings SET value = value");
      assertThat(imported("merge.sql", Way.GOES_ON))
          .isEqualTo("nothing was changed: no transaction could be begun; is the database in use?");
      assertThat(imported("merge.sql", Way.STOPS)).doesNotStartWith("done");
      statement.execute("COMMIT");
    }
    assertThat(all()).isEqualTo(before);
    assertThat(imported("merge.sql", Way.GOES_ON)).startsWith("done");
  }

  /** Its commits could come half-way. */
  @Test
  void inATransactionOfTheClientNothingIsWritten() throws Exception {
    String before = all();
    try (Connection connection = panel.connection()) {
      connection.setAutoCommit(false);
      assertThat(imported("merge.sql", Way.GOES_ON, connection))
          .isEqualTo("nothing was changed: the client has begun a transaction");
    }
    assertThat(all()).isEqualTo(before);
  }

  @ParameterizedTest
  @EnumSource(Way.class)
  void whereSomethingElseWasMergedNoTableIsMadeEither(Way way) throws Exception {
    live.run(
        "CREATE TABLE skf_weftex_ledger (receipt TEXT PRIMARY KEY, change_set, kind, written_at, seq,"
            + " receipt_sha256)");
    live.run(
        "INSERT INTO skf_weftex_ledger (receipt, change_set, kind, written_at, seq) VALUES ('other',"
            + " 'other', 'apply', '2026-11-28T10:00:00Z', 9)");
    String before = all();
    assertThat(imported("merge.sql", way))
        .isEqualTo("nothing was changed: something else was merged since the export");
    assertThat(all()).isEqualTo(before);
  }

  @Test
  void theNextExportTellsWhetherItRanAndTheWeeksGoOn() throws Exception {
    panel.export();
    assertThat(new Program(folder).run("apply", "--confirm").out()).contains("was not imported");
    // Visitors take IDs before the import, and the merge leaves them some.
    live.run(
        "INSERT INTO skf_comments (page_id, author, body, written_at) VALUES (1, 'A', 'B', 'C')");
    assertThat(imported("merge.sql", Way.STOPS)).startsWith("done");
    panel.export();
    assertThat(done("apply", "--confirm").out()).contains("was imported");
    assertThat(new Program(folder).run("compare").out())
        .doesNotContain("· added", "gauges", "tides");
    staging.run("UPDATE skf_pages SET title = 'Winter 2027' WHERE title = 'Winter timetable'");
    done("draft", "--item", "page:Winter 2027");
    done("review", "--approve");
    done("apply", "--script", "next.sql");
    assertThat(imported("next.sql", Way.STOPS)).startsWith("done");
    assertThat(live.ask("SELECT title FROM skf_pages WHERE title = 'Winter 2027'")).hasSize(1);
    assertThat(imported("merge-undo.sql", Way.STOPS))
        .isEqualTo("nothing was changed: something else was merged since");
  }
}
