package weftex.store.copy;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.model.SiteModel;
import weftex.store.apply.ApplyOutcome;
import weftex.store.compare.ComparisonRun;
import weftex.store.database.Catalog;
import weftex.store.database.CopySpec;
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
  void theTablesOfAnotherSiteUnderThePrefixAreNamedAndLeftAlone() throws Exception {
    Pair pair = Pair.create(Pair.Kind.SQLITE, folder, SiteModel.PLAIN);
    for (String set : List.of("", "2_", "13_")) {
      for (String table : List.of("posts", "options", "terms")) {
        pair.both("CREATE TABLE \"" + set + table + "\" (id INTEGER PRIMARY KEY, x TEXT)");
      }
    }
    pair.both(
        "CREATE TABLE \"2_orders\" (id INTEGER PRIMARY KEY)",
        "CREATE TABLE \"3_posts\" (id INTEGER PRIMARY KEY)");
    Catalog catalog = Copy.reach(pair.spec("live")).catalog();
    assertThat(catalog.tables()).containsOnlyKeys("posts", "options", "terms", "3_posts");
    assertThat(catalog.notHandled())
        .containsEntry("2_*", "another site's set of 4 tables under this prefix")
        .containsEntry("13_*", "another site's set of 3 tables under this prefix");
    pair.mark();
    pair.on("staging", "INSERT INTO \"2_posts\" VALUES (1, 'of another site')");
    assertThat(pair.changes()).isEmpty();
  }

  @Test
  void accountsOfAllSitesUnderOneRoofAreFoundUnderItsOwnPrefix() throws Exception {
    Pair pair = Pair.create(Pair.Kind.SQLITE, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE wp_users (id INTEGER PRIMARY KEY)",
        "CREATE TABLE wp_posts (id INTEGER PRIMARY KEY)",
        "CREATE TABLE wp_orders (id INTEGER PRIMARY KEY)",
        "CREATE TABLE wp_2_posts (id INTEGER PRIMARY KEY)");
    CopySpec.SqliteFile whole = (CopySpec.SqliteFile) pair.spec("live");
    CopySpec second =
        new CopySpec.SqliteFile(
            "live", "wp_2_", whole.file(), List.of("users", "gone"), java.util.Optional.empty());
    assertThat(Copy.reach(second).catalog().tables()).containsOnlyKeys("posts", "users");
    assertThat(Copy.reach(second).catalog().find("users").orElseThrow().realName())
        .isEqualTo("wp_users");
    CopySpec first =
        new CopySpec.SqliteFile(
            "live", "wp_", whole.file(), List.of("users"), java.util.Optional.empty());
    assertThat(Copy.reach(first).catalog().tables()).containsKeys("users", "posts", "orders");
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
