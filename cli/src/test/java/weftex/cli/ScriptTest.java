package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.sqltext.SqlStatements;

/** A merge as a script, imported by the ways that hosting panels have. */
class ScriptTest {
  private static final String WINTER =
      "SELECT p.title, q.title FROM skf_pages p JOIN skf_pages q ON q.id = p.parent_id WHERE p.slug ="
          + " 'winter-hesk'";

  private static final String TIDES =
      "SELECT harbour, day, slot, height, note FROM skf_tides ORDER BY day";

  @TempDir private static Path folder;

  /** The folder and both copies as every test finds them, which takes long to make. */
  @TempDir private static Path kept;

  private static ServerSite site;

  /** How a panel sends what it imports. */
  enum Way {
    CLIENT,
    CLIENT_THAT_GOES_ON_AFTER_ERRORS,
    ONE_BY_ONE
  }

  @BeforeEach
  void asItWasAfterAWeek() throws Exception {
    for (String copy : List.of(site.staging, site.live)) {
      site.server.sql(
          "", "DROP DATABASE " + copy + "; CREATE DATABASE " + copy + " CHARACTER SET utf8mb4");
      site.server.load(copy, kept.resolve(copy));
    }
    shell("find '%s' -mindepth 1 -delete; cp -a '%s/folder/.' '%1$s'".formatted(folder, kept));
  }

  private static void shell(String command) throws Exception {
    assertThat(new ProcessBuilder("bash", "-c", command).inheritIO().start().waitFor()).isZero();
  }

  @BeforeAll
  static void aWeekAndAScript() throws Exception {
    site = new ServerSite(folder);
    for (String copy : List.of(site.staging, site.live)) {
      site.server.sql(
          copy,
          "CREATE TABLE skf_tides (harbour VARCHAR(9), day INT, slot INT UNIQUE, height DECIMAL(6,2),"
              + " note TEXT, seen TIMESTAMP NOT NULL DEFAULT '2026-11-01 00:00:00' ON UPDATE"
              + " CURRENT_TIMESTAMP, PRIMARY KEY (harbour, day));"
              + " INSERT INTO skf_tides SELECT IF(seq % 2, 'Hesk', 'Norrey'), seq, seq, seq / 8, CONCAT('low ', seq),"
              + " '2026-11-02 10:00:00' FROM seq_1_to_100;"
              + " CREATE TABLE skf_buoys (id INT PRIMARY KEY, name VARCHAR(40), place VARCHAR(20) CHARACTER SET"
              + " latin1, n BIGINT UNSIGNED, day DATE, at DATETIME(3), mark ENUM('red', 'green'), log TEXT, photo"
              + " BLOB, note TEXT);"
              + " INSERT INTO skf_buoys SELECT seq, IF(seq = 7, NULL, CONCAT('Buoy \\'', seq)), 'Brä',"
              + " 18446744073709551615 - seq, '2026-11-01' + INTERVAL seq DAY, '2026-11-01 10:00:00.125',"
              + " IF(seq % 2, 'red', 'green'), IF(seq = 9, NULL, REPEAT(CONCAT('swell é ', seq, '; '), IF(seq % 5,"
              + " 40, 1))), NULL, '' FROM seq_1_to_100");
    }
    assertThat(weftex("mark").status()).isZero();
    Path yaml = folder.resolve("weftex.yaml");
    String text = Files.readString(yaml);
    int live = text.indexOf("  live:");
    Files.writeString(yaml, text.substring(0, live) + "  live: {sql: live.sql, prefix: skf_}\n");
    site.week();
    // A table and a column come along, which the server commits by itself.
    site.server.sql(
        site.staging,
        "CREATE TABLE skf_gauges (id INT PRIMARY KEY, name VARCHAR(9)); INSERT INTO skf_gauges VALUES"
            + " (1, 'pier'); ALTER TABLE skf_routes ADD COLUMN kiosk VARCHAR(9) NOT NULL DEFAULT 'none';"
            + " UPDATE skf_routes SET kiosk = 'it''s' WHERE id = 1;"
            + " UPDATE skf_tides SET note = CONCAT(note, ' \\\\ \\'é\\''), height = IF(day % 3, height + 0.01, NULL)"
            + " WHERE day <= 90; UPDATE skf_tides SET slot = slot + 200 WHERE day > 80;"
            + " UPDATE skf_buoys SET name = CONCAT(COALESCE(name, 'none'), ' \\\\ é') WHERE id <= 90;"
            + " UPDATE skf_pages SET body = REPEAT('Winter \\\\ \\'é\\' ', 90) WHERE id = 5");
    export();
    weftex("draft", "--tables", "*");
    weftex("review", "--take", "conflicts");
    weftex("review", "--skip", "conflicts");
    assertThat(weftex("review", "--approve").status()).isZero();
    Program.Ran written = weftex("apply", "--script", "merge.sql");
    assertThat(written.status()).as(written.err()).isZero();
    assertThat(written.err().replaceAll("\\s+", " "))
        .contains("Wrote merge.sql (", "merge-undo.sql, which takes the changes back")
        .contains("The server commits by itself: ", "table 'gauges'");
    for (String copy : List.of(site.staging, site.live)) {
      Files.write(kept.resolve(copy), site.server.dump(copy, "utf8mb4"));
    }
    shell("cp -a '%s' '%s/folder'".formatted(folder, kept));
  }

  private static Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private static void export() throws Exception {
    Files.write(folder.resolve("live.sql"), site.server.dump(site.live, "utf8mb4"));
  }

  private Connection connection() throws SQLException {
    return DriverManager.getConnection(
        "jdbc:mariadb://127.0.0.1:"
            + site.server.port()
            + "/"
            + site.live
            + "?user=root&sslMode=disable");
  }

  private interface Sender {
    void send(String statement) throws SQLException;
  }

  private void each(String file, Sender sender) throws Exception {
    try (InputStream in = Files.newInputStream(folder.resolve(file))) {
      SqlStatements statements = new SqlStatements(in, true);
      for (Optional<SqlStatements.Statement> next = statements.next();
          next.isPresent();
          next = statements.next()) {
        sender.send(next.get().text());
      }
    }
  }

  /** Imports, and gives what is shown at the end. */
  private String importFile(String file, Way way) throws Exception {
    if (way != Way.ONE_BY_ONE) {
      String said =
          site.server.load(
              site.live,
              folder.resolve(file),
              way == Way.CLIENT ? "--batch" : "--force",
              "--skip-column-names");
      return said.lines().reduce("", (earlier, later) -> later).replaceAll("^\\| *| *\\|$", "");
    }
    String[] said = {""};
    try (Connection connection = connection();
        Statement statement = connection.createStatement()) {
      each(file, sql -> said[0] = shown(statement, sql).orElse(said[0]));
    }
    return said[0];
  }

  private static Optional<String> shown(Statement statement, String sql) throws SQLException {
    if (!statement.execute(sql)) {
      return Optional.empty();
    }
    try (ResultSet rows = statement.getResultSet()) {
      return rows.next() ? Optional.ofNullable(rows.getString(1)) : Optional.empty();
    }
  }

  private String live() throws IOException, InterruptedException {
    return new String(
            site.server.dump(site.live, "utf8mb4"), java.nio.charset.StandardCharsets.UTF_8)
        .replaceAll("-- Dump completed.*|AUTO_INCREMENT=\\d+", "");
  }

  @Test
  void itMakesAllChangesOnceAndTheUndoTakesThemBack() throws Exception {
    // The table, the column and the ledger that come first are there before the comparison.
    site.server.sql(site.live, "CREATE TABLE skf_weftex_probe (id INT)");
    String visitors =
        "INSERT INTO skf_comments (page_id, author, body, written_at) VALUES (1, 'Kari', 'Open?', '2026-11-28 10:00:00')";
    site.server.sql(site.live, visitors);
    String before = site.dump();
    assertThat(Files.readString(folder.resolve("merge.sql")))
        .as("some at a time, and alone what must be unique")
        .containsPattern("(?m)^UPDATE `skf_tides`.* CASE WHEN .* THEN NULL .* END, .*@weftex_go")
        .containsPattern("(?m)^UPDATE `skf_tides` SET `slot` = 281,");
    for (Way way : Way.values()) {
      madeOnceAndTakenBack(way, before);
    }
    // After that it may be made once more.
    assertThat(importFile("merge.sql", Way.CLIENT)).startsWith("done: the changes are made");
  }

  private void madeOnceAndTakenBack(Way way, String before) throws Exception {
    assertThat(importFile("merge.sql", way)).startsWith("done: the changes are made");
    assertThat(site.server.sql(site.live, WINTER))
        .isEqualTo("Winter sailings to Hesk\tWinter timetable\n");
    assertThat(site.server.sql(site.live, "SELECT body FROM skf_pages WHERE id = 5"))
        .isEqualTo(site.server.sql(site.staging, "SELECT body FROM skf_pages WHERE id = 5"));
    assertThat(site.server.sql(site.live, "SELECT kiosk FROM skf_routes WHERE id = 1"))
        .isEqualTo("it's\n");
    assertThat(site.server.sql(site.live, TIDES)).isEqualTo(site.server.sql(site.staging, TIDES));
    String merged = live();
    assertThat(importFile("merge.sql", way)).isEqualTo("nothing was changed: it ran before");
    assertThat(live()).isEqualTo(merged);
    assertThat(importFile("merge-undo.sql", way)).startsWith("done: the changes are taken back");
    assertThat(site.dump()).isEqualTo(before);
    assertThat(importFile("merge-undo.sql", way))
        .isEqualTo("nothing was changed: the changes are not made, or were taken back");
  }

  @Test
  void onALiveThatMovedNothingIsWritten() throws Exception {
    site.server.sql(site.live, "UPDATE skf_pages SET body = CONCAT(body, '!') WHERE id = 5");
    String before = site.dump();
    for (Way way : Way.values()) {
      assertThat(importFile("merge.sql", way))
          .startsWith(
              "nothing was changed: a row is not as it was at the export, among skf_pages ");
      assertThat(site.dump()).isEqualTo(before);
    }
  }

  @Test
  void whereALiveRowMovedInAnyColumnNothingIsWritten() throws Exception {
    assertThat(Files.readString(folder.resolve("merge.sql")))
        .as("column by column")
        .containsPattern(
            "FROM `skf_buoys` WHERE \\(`id` IN \\(1, .* <=> CAST\\(CASE `id` WHEN 1 THEN ");
    assertThat(importFile("merge.sql", Way.CLIENT)).startsWith("done: the changes are made");
    assertThat(importFile("merge-undo.sql", Way.CLIENT)).startsWith("done");
    for (String moved :
        List.of(
            "name = UPPER(name)",
            "name = CONCAT(name, ' ')",
            "name = NULL",
            "place = 'Bra'",
            "place = 'BRÄ'",
            "n = n + 1",
            "n = NULL",
            "day = day + INTERVAL 1 DAY",
            "at = at + INTERVAL 1000 MICROSECOND",
            "mark = 'red'",
            "log = UPPER(log)",
            "log = NULL",
            "photo = ''",
            "note = NULL",
            "note = ' '")) {
      String keep =
          "DROP TABLE IF EXISTS skf_kept; CREATE TABLE skf_kept SELECT * FROM skf_buoys WHERE id = 30;";
      site.server.sql(site.live, keep + "UPDATE skf_buoys SET " + moved + " WHERE id = 30");
      String before = live();
      assertThat(importFile("merge.sql", Way.CLIENT))
          .as(moved)
          .startsWith(
              "nothing was changed: a row is not as it was at the export, among skf_buoys ");
      assertThat(live()).as(moved).isEqualTo(before);
      site.server.sql(site.live, "REPLACE INTO skf_buoys SELECT * FROM skf_kept");
    }
    site.server.sql(site.live, "UPDATE skf_buoys SET name = '' WHERE id = 7");
    assertThat(importFile("merge.sql", Way.CLIENT)).startsWith("nothing was changed");
    site.server.sql(site.live, "UPDATE skf_buoys SET name = NULL WHERE id = 7");
    assertThat(importFile("merge.sql", Way.CLIENT)).startsWith("done: the changes are made");
    String buoys = "SELECT * FROM skf_buoys ORDER BY id";
    assertThat(site.server.sql(site.live, buoys)).isEqualTo(site.server.sql(site.staging, buoys));
  }

  @Test
  void afterAnErrorNothingMoreIsWritten() throws Exception {
    // The slug of a page that is going to be added.
    site.server.sql(site.live, "UPDATE skf_pages SET slug = 'winter-hesk' WHERE id = 1");
    String before = site.dump();
    String said = importFile("merge.sql", Way.CLIENT_THAT_GOES_ON_AFTER_ERRORS);
    assertThat(said).startsWith("nothing was changed: ");
    assertThat(site.dump()).isEqualTo(before);
    importFile("merge.sql", Way.CLIENT);
    assertThat(site.dump()).isEqualTo(before);
  }

  @Test
  void whereEachStatementHasAConnectionOfItsOwnNothingIsWritten() throws Exception {
    String before = site.dump();
    String[] said = {""};
    each(
        "merge.sql",
        sql -> {
          try (Connection connection = connection();
              Statement statement = connection.createStatement()) {
            said[0] = shown(statement, sql).orElse(said[0]);
          } catch (SQLException e) {
            // Some make no sense alone, and the panel goes on.
            said[0] = said[0];
          }
        });
    assertThat(said[0])
        .isEqualTo("nothing was changed: not all statements came over one connection");
    assertThat(site.dump()).isEqualTo(before);
  }

  @Test
  void whereTheConnectionIsLostHalfWayNothingIsWritten() throws Exception {
    String before = site.dump();
    int[] count = {0};
    each("merge.sql", sql -> count[0]++);
    for (int lost : new int[] {count[0] / 3, count[0] / 2, count[0] - 8}) {
      Connection[] now = {connection()};
      int[] at = {0};
      each(
          "merge.sql",
          sql -> {
            if (++at[0] == lost) {
              now[0].close();
              now[0] = connection();
            }
            try (Statement statement = now[0].createStatement()) {
              statement.execute(sql);
            } catch (SQLException e) {
              at[0] += 0;
            }
          });
      now[0].close();
      assertThat(site.dump()).as("lost at " + lost + " of " + count[0]).isEqualTo(before);
    }
    assertThat(importFile("merge.sql", Way.CLIENT)).startsWith("done");
  }

  @Test
  void theNextExportTellsWhetherItRanAndTheWeeksGoOn() throws Exception {
    export();
    Program.Ran not = weftex("apply", "--confirm");
    assertThat(not.status()).isEqualTo(1);
    assertThat(not.out()).contains("was not imported");
    assertThat(weftex("compare").out()).contains("page 'Winter timetable' · added");
    // Visitors take IDs before the import, and the merge leaves them some.
    site.server.sql(
        site.live,
        "INSERT INTO skf_pages (slug, title, body, status, parent_id, author_id) VALUES ('news', 'News',"
            + " '', 'published', 1, 1)");
    assertThat(importFile("merge.sql", Way.CLIENT)).startsWith("done");
    export();
    Program.Ran ran = weftex("apply", "--confirm");
    assertThat(ran.status()).as(ran.out()).isZero();
    assertThat(ran.out()).contains("was imported");
    assertThat(weftex("compare").out()).doesNotContain("· added", "Winter timetable");
    site.server.sql(
        site.staging,
        "UPDATE skf_pages SET title = 'Winter 2027' WHERE title = 'Winter timetable'");
    weftex("draft", "--item", "page:Winter 2027");
    weftex("review", "--approve");
    Program.Ran next = weftex("apply", "--script", "next.sql");
    assertThat(next.status()).as(next.err()).isZero();
    assertThat(importFile("next.sql", Way.CLIENT)).startsWith("done");
    assertThat(
            site.server.sql(site.live, "SELECT title FROM skf_pages WHERE title = 'Winter 2027'"))
        .isEqualTo("Winter 2027\n");
    // The first can't be taken back under the second.
    assertThat(importFile("merge-undo.sql", Way.CLIENT))
        .isEqualTo("nothing was changed: something else was merged since");
  }

  @Test
  void aScriptThatWasNeverImportedIsAsIfItHadNotBeen() throws Exception {
    export();
    weftex("draft", "--tables", "*");
    weftex("review", "--take", "conflicts");
    weftex("review", "--skip", "conflicts");
    assertThat(weftex("review", "--approve").status()).isZero();
    Program.Ran again = weftex("apply", "--script", "again.sql");
    assertThat(again.status()).as(again.err()).isZero();
    assertThat(again.err()).contains("table 'gauges'", "column 'routes.kiosk'");
    assertThat(importFile("again.sql", Way.CLIENT)).startsWith("done");
    assertThat(importFile("merge.sql", Way.CLIENT))
        .isEqualTo("nothing was changed: something else was merged since the export");
    assertThat(site.server.sql(site.live, "SELECT name FROM skf_gauges")).isEqualTo("pier\n");
    export();
    assertThat(weftex("apply", "--confirm").status()).isZero();
    assertThat(weftex("compare").out()).doesNotContain("· added", "gauges");
  }

  @Test
  void filesThatAreThereAreLeftAlone() throws Exception {
    assertThat(weftex("apply", "--script", "merge.sql").err())
        .contains("merge.sql is there already");
    assertThat(weftex("apply", "--script", "other.sql", "--even-if-no-rollback").err())
        .contains("A script writes all or nothing");
    Files.delete(folder.resolve("merge.sql"));
    assertThat(weftex("apply", "--script", "merge.sql").err())
        .contains(
            "merge-undo.sql, where the script that takes the changes back would go, is there");
  }
}
