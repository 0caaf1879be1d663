package weftex.store.copy;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.site.SiteModel;
import weftex.store.apply.ApplyOutcome;
import weftex.store.compare.ComparisonRun;
import weftex.store.testing.Pair;

/** Whatever looks like a table is either compared or named. */
class KindsOfTableTest {
  @TempDir Path folder;

  @Test
  void systemVersionedTablesAreComparedAppliedAndTakenBack() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE hidden (id INT AUTO_INCREMENT PRIMARY KEY, title VARCHAR(20)) WITH SYSTEM VERSIONING",
        "CREATE TABLE shown (id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY, title VARCHAR(20), slug VARCHAR(20) UNIQUE,"
            + " since TIMESTAMP(6) GENERATED ALWAYS AS ROW START, till TIMESTAMP(6) GENERATED ALWAYS AS ROW END,"
            + " PERIOD FOR SYSTEM_TIME (since, till)) WITH SYSTEM VERSIONING",
        "INSERT INTO hidden (title) VALUES ('Hesk'), ('Vorran'), ('Skerrow')",
        "INSERT INTO shown (title, slug) VALUES ('Hesk', 'a'), ('Vorran', 'b'), ('Skerrow', 'c')");
    pair.mark();
    pair.on(
        "staging",
        "UPDATE hidden SET title = 'Hesk harbour' WHERE id = 1",
        "DELETE FROM hidden WHERE id = 2",
        "INSERT INTO hidden (title) VALUES ('Lunna')",
        "UPDATE shown SET title = 'Hesk harbour' WHERE id = 1",
        "DELETE FROM shown WHERE id = 2",
        "INSERT INTO shown (title, slug) VALUES ('Lunna', 'd')");
    String rows = "SELECT id, title FROM hidden UNION ALL SELECT id, title FROM shown";
    List<String> before = pair.ask("live", rows);
    assertThat(pair.changes()).hasSize(6);
    ApplyOutcome outcome = pair.apply(pair.approvedDraft());
    assertThat(outcome).isInstanceOf(ApplyOutcome.Applied.class);
    assertThat(pair.ask("live", rows)).isEqualTo(pair.ask("staging", rows));
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(pair.ask("live", rows)).containsExactlyInAnyOrderElementsOf(before);
  }

  @Test
  void whatIsNoTableWithRowsOfItsOwnIsNamed() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE pages (id INT PRIMARY KEY)",
        "CREATE VIEW newest AS SELECT * FROM pages",
        "CREATE SEQUENCE tickets",
        "CREATE TABLE one (id INT) ENGINE=MyISAM",
        "CREATE TABLE merged (id INT) ENGINE=MERGE UNION=(one)");
    Catalog catalog = Copy.reach(pair.spec("live")).catalog();
    assertThat(catalog.tables()).containsOnlyKeys("one", "pages");
    assertThat(catalog.notHandled())
        .isEqualTo(
            Map.of(
                "newest", "a view",
                "tickets", "a sequence",
                "merged", "a table of the engine MRG_MyISAM, which keeps no rows of its own"));
  }

  @Test
  void virtualTablesAndViewsOfAFileAreNamed() throws Exception {
    Pair pair = Pair.create(Pair.Kind.SQLITE, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE pages (id INTEGER PRIMARY KEY, title TEXT)",
        "CREATE VIEW newest AS SELECT * FROM pages",
        "CREATE VIRTUAL TABLE found USING fts5(title)");
    Catalog catalog = Copy.reach(pair.spec("live")).catalog();
    assertThat(catalog.tables()).containsOnlyKeys("pages");
    assertThat(catalog.notHandled())
        .containsEntry("newest", "a view")
        .containsEntry("found", "a virtual table")
        .containsEntry("found_data", "a part of a virtual table");
    try (ComparisonRun run = pair.mark().compare()) {
      assertThat(run.comparison().tables()).hasSize(1);
    }
  }
}
