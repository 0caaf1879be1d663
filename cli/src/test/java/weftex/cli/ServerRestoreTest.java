package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files that the server's own dump client wrote, and databases beside the copy's. */
class ServerRestoreTest {
  private static final String PAGES = "SELECT title FROM skf_pages ORDER BY id;";
  private static final String SCRATCH = "weftex_scratch_skerrow_base";

  @TempDir Path folder;
  private ServerSite site;

  @BeforeEach
  void aDumpOfTheNight() throws Exception {
    site = new ServerSite(folder);
    assertThat(weftex("mark").status()).isZero();
    site.week();
    Files.write(folder.resolve("night.sql"), site.server.dump(site.live, "utf8mb4"));
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private boolean isThere(String database) {
    return !site.server.sql("mysql", "SHOW DATABASES LIKE '" + database + "';").isBlank();
  }

  @Test
  void theServersOwnDumpIsPutBack() {
    String before = site.server.sql(site.live, PAGES);
    site.server.sql(site.live, "DELETE FROM skf_comments; UPDATE skf_pages SET title = 'x';");
    Program.Ran restored = weftex("restore", "live", "night.sql", "--yes", "skerrow");
    assertThat(restored.status()).as(restored.err()).isZero();
    assertThat(restored.err()).contains("becomes what night.sql has: ", "skf_pages 12 edited");
    assertThat(site.server.sql(site.live, PAGES)).isEqualTo(before);
    assertThat(isThere(SCRATCH)).isFalse();
  }

  @Test
  void aDumpOfLiveMakesStagingAnewUnderItsOwnPrefix() throws Exception {
    StringBuilder renames = new StringBuilder();
    for (String table : site.server.sql(site.staging, "SHOW TABLES LIKE 'skf%';").split("\\s+")) {
      renames
          .append("RENAME TABLE ")
          .append(table)
          .append(" TO ")
          .append("stg" + table.substring(3));
      renames.append(";");
    }
    site.server.sql(site.staging, renames.toString());
    Path config = folder.resolve("weftex.yaml");
    Files.writeString(
        config, Files.readString(config).replaceFirst("prefix: skf_", "prefix: stg_"));
    Program.Ran remade = weftex("restore", "staging", "night.sql", "--yes", "skerrow");
    assertThat(remade.status()).as(remade.err()).isZero();
    assertThat(remade.err()).contains("These tables are not there and go: stg_booking_offers");
    assertThat(site.server.sql(site.staging, PAGES.replace("skf_", "stg_")))
        .isEqualTo(site.server.sql(site.live, PAGES));
    Files.writeString(folder.resolve("junk.sql"), "\u0000 no SQL");
    assertThat(weftex("restore", "staging", "junk.sql").err())
        .contains("Line 1 of the file has a statement that no dump of a site has");
    assertThat(isThere(SCRATCH)).isFalse();
  }

  @Test
  void aDatabaseBesideTheCopysIsMadeAndMustBeEmpty() {
    String beside = site.live + "_beside";
    Program.Ran put = weftex("restore", "live", "night.sql", "--into-database", beside);
    assertThat(put.status()).as(put.err()).isZero();
    assertThat(put.out()).contains("Put it into the database " + beside);
    assertThat(site.server.sql(beside, PAGES)).isEqualTo(site.server.sql(site.live, PAGES));
    assertThat(weftex("restore", "live", "night.sql", "--into-database", site.staging).err())
        .contains("has tables already. Nothing was changed");
  }

  @Test
  void aScratchDatabaseThatAKilledRunLeftIsTidied() throws Exception {
    assertThat(weftex("tidy").out()).doesNotContain(SCRATCH);
    site.server.sql("mysql", "CREATE DATABASE " + SCRATCH + ";");
    // It is not ours before it has our mark.
    site.server.sql(SCRATCH, "CREATE TABLE precious (n INT);");
    assertThat(weftex("tidy", "--yes").out()).doesNotContain(SCRATCH);
    assertThat(isThere(SCRATCH)).isTrue();
    site.server.sql(
        SCRATCH,
        "CREATE TABLE weftex_new_scratch (sha256 VARCHAR(64), bytes BIGINT, modified BIGINT, whole"
            + " INT, text_at TEXT);");
    assertThat(weftex("tidy").out()).contains("Can go: ", SCRATCH, "weftex tidy --yes");
    assertThat(isThere(SCRATCH)).isTrue();
    assertThat(weftex("tidy", "--yes").out()).contains("Removed ", SCRATCH);
    assertThat(isThere(SCRATCH)).isFalse();
  }

  @Test
  void stagingOnAServerIsMadeAnew() {
    Program.Ran remade = weftex("restore", "staging", "live", "--yes", "skerrow");
    assertThat(remade.status()).as(remade.err()).isZero();
    assertThat(site.server.sql(site.staging, PAGES)).isEqualTo(site.server.sql(site.live, PAGES));
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    assertThat(weftex("restore", "staging", "--back", "--yes", "skerrow").status()).isZero();
    assertThat(weftex("draft").status()).isIn(0, 1);
  }
}
