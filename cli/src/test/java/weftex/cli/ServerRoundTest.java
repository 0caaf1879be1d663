package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * The whole job on a real server, by the program as a process, and the ways in which a server can
 * be missed.
 */
class ServerRoundTest {
  @TempDir Path folder;

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).with("LIVE_PASSWORD", "right").run(arguments);
  }

  @Test
  void theWholeJobAndBack() throws Exception {
    ServerSite site = new ServerSite(folder);
    assertThat(weftex("mark").out())
        .contains("Recorded staging as the base", "live has the same content.");
    assertThat(weftex("compare").status()).isZero();
    site.week();
    String before = site.dump();

    assertThat(weftex("check").out()).contains("MariaDB 11.4.5", "noise");
    Program.Ran compared = weftex("compare");
    assertThat(compared.status()).isEqualTo(1);
    assertThat(compared.out()).contains("staging → live", "pages", "live's own");
    assertThat(weftex("draft").status()).isEqualTo(1);
    assertThat(weftex("apply").err()).contains("without a decision");
    assertThat(weftex("review", "--approve").err())
        .contains("still need a decision", "was not approved");
    assertThat(weftex("review", "--keep", "conflicts", "--why", "live is right").status()).isZero();
    assertThat(weftex("apply").err()).contains("is not approved");
    assertThat(weftex("review", "--approve", "--by", "Mira").out()).contains("Approved by Mira");
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err()).isZero();
    assertThat(
            site.server.sql(
                site.live,
                "SELECT p.title, q.title FROM skf_pages p JOIN skf_pages q ON q.id = p.parent_id WHERE p.slug = 'winter-hesk';"))
        .isEqualTo("Winter sailings to Hesk\tWinter timetable\n");
    assertThat(weftex("apply").out()).contains("Nothing was done");
    assertThat(weftex("undo").status()).isZero();
    assertThat(site.dump()).isEqualTo(before);
    assertThat(weftex("history").out().lines().filter(line -> line.contains("receipt"))).hasSize(2);
    assertThat(weftex("history").out()).contains("menu entry 'Festival'", "and 13 more");
  }

  @Test
  void whatWasMergedIsNotReadAgainUntilOneOfTheCopiesChangesIt() throws Exception {
    ServerSite site = new ServerSite(folder);
    weftex("mark");
    site.server.sql(site.staging, "UPDATE skf_pages SET title = CONCAT(title, ' of Skerrow')");
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(weftex("compare").status()).isZero();
    Path settled = folder.resolve(".weftex/settled/into-live.json");
    assertThat(Files.readString(settled)).contains("\"pages\"");
    byte[] found = Files.readAllBytes(settled);
    assertThat(weftex("compare").status()).isZero();
    assertThat(Files.readAllBytes(settled)).isEqualTo(found);
    site.server.sql(site.staging, "UPDATE skf_pages SET title = 'Staging' WHERE id = 4");
    site.server.sql(site.live, "UPDATE skf_pages SET title = 'Live' WHERE id = 5");
    String compared = weftex("compare").out();
    assertThat(compared).contains("page 'Staging'").doesNotContain("of Skerrow");
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(
            site.server.sql(
                site.live, "SELECT title FROM skf_pages WHERE id IN (4, 5) ORDER BY id"))
        .isEqualTo("Staging\nLive\n");
    // An undo brings back the state of before, of which nothing was found.
    assertThat(weftex("undo").status()).isZero();
    assertThat(weftex("compare").out()).isEqualTo(compared);
    // Another configuration is another comparison.
    Files.writeString(
        folder.resolve("weftex.yaml"),
        Files.readString(folder.resolve("weftex.yaml")) + "roles: {pages: live}\n");
    weftex("compare");
    assertThat(Files.readString(settled)).startsWith("{\"format\":1,\"terms\":");
    assertThat(Files.readString(settled).substring(0, 90))
        .isNotEqualTo(new String(found, StandardCharsets.UTF_8).substring(0, 90));
  }

  @Test
  void liveIntoStagingWithTheSameCommands() throws Exception {
    ServerSite site = new ServerSite(folder);
    weftex("mark");
    site.week();
    String live = site.dump();
    assertThat(
            weftex("draft", "--into", "staging", "--tables", "comments,harbours,accounts,bookings")
                .out())
        .contains("live → staging");
    weftex("review", "--skip", "conflicts");
    weftex("review", "--skip", "conflicts");
    weftex("review", "--approve");
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err() + applied.out()).isZero();
    assertThat(site.server.sql(site.staging, "SELECT phone FROM skf_harbours WHERE id = 1;"))
        .isEqualTo("+00 555 0170\n");
    assertThat(site.server.sql(site.staging, "SELECT COUNT(*) FROM skf_bookings;"))
        .isEqualTo("3\n");
    assertThat(site.dump()).isEqualTo(live);
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      value = {
        "host: 127.0.0.1 | host: no-such-host.invalid | no host is called 'no-such-host.invalid'",
        "port: PORT | port: 1 | nothing answers on port 1",
        "user: root | user: nobody, password: {variable: WRONG} | Correct 'user' of live in weftex.yaml: the server has no user 'nobody'",
        "user: root | user: clerk, password: {variable: WRONG} | Correct 'password' of live in weftex.yaml: the server has a user 'clerk'",
        "user: root | user: clerk, password: {variable: UNSET} | The variable UNSET",
        "database: LIVE | database: LIVE2 | host, user and password are right, but there is no database",
        "prefix: skf_ | prefix: skx_ | none of its tables begins with the prefix 'skx_'",
      })
  void eachWrongWordHasASentenceOfItsOwn(String right, String wrong, String message)
      throws Exception {
    ServerSite site = new ServerSite(folder);
    site.server.sql(
        "", "CREATE USER IF NOT EXISTS clerk IDENTIFIED BY 'right'; GRANT ALL ON *.* TO clerk;");
    Path file = folder.resolve("weftex.yaml");
    String yaml = Files.readString(file);
    int start = yaml.indexOf("  live:");
    String live =
        yaml.substring(start)
            .replace(
                right.replace("PORT", "" + site.server.port()).replace("LIVE", site.live),
                wrong.replace("LIVE", site.live));
    Files.writeString(file, yaml.substring(0, start) + live);
    Program.Ran ran = new Program(folder).with("WRONG", "wrong").run("check");
    assertThat(ran.status()).isIn(2, 3);
    assertThat(ran.err())
        .contains(message, "Nothing was changed")
        .doesNotContain("Exception", "wrong)");
  }

  @Test
  void aStrangerWhoIsLetInAsAGuestIsToldSo() throws Exception {
    ServerSite site = new ServerSite(folder);
    site.server.sql("", "CREATE USER ''@'%';");
    try {
      site.configure("nobody", "");
      assertThat(weftex("check").err())
          .contains("the server has no user 'nobody', and accepts unknown users only as anonymous");
    } finally {
      site.server.sql("", "DROP USER ''@'%';");
    }
  }

  @Test
  void whatStandsInTheWayIsNamedByCheckAndRefusedByApply() throws Exception {
    ServerSite site = new ServerSite(folder);
    site.server.sql(
        site.live,
        """
        ALTER TABLE skf_sessions ENGINE=Aria;
        ALTER TABLE skf_settings ENGINE=MyISAM;
        CREATE TABLE skf_log (words TEXT) ENGINE=InnoDB;
        CREATE TRIGGER loud BEFORE UPDATE ON skf_menu_entries FOR EACH ROW SET NEW.label = NEW.label;
        CREATE USER IF NOT EXISTS reader IDENTIFIED BY 'right';
        """
            + "GRANT SELECT ON "
            + site.live
            + ".* TO reader;");
    assertThat(weftex("check").out())
        .contains(
            "skf_settings (MyISAM) can't roll back",
            "has the trigger loud (BEFORE UPDATE)",
            "skf_log has no primary key",
            "only on live");
    site.configure("reader", ", password: {variable: LIVE_PASSWORD}");
    assertThat(weftex("check").out())
        .contains("lacks the right to INSERT, UPDATE, DELETE, CREATE, TRIGGER");
    weftex("mark");
    site.server.sql(site.staging, "UPDATE skf_settings SET value = 'New' WHERE id = 1;");
    weftex("draft");
    weftex("review", "--approve");
    Program.Ran refused = weftex("apply");
    assertThat(refused.status()).isEqualTo(4);
    assertThat(refused.err())
        .contains("can't roll back", "skf_settings (MyISAM)", "Nothing was changed");
    Program.Ran denied = weftex("apply", "--even-if-no-rollback");
    assertThat(denied.status()).isNotZero();
    assertThat(denied.err()).contains("denied").doesNotContain("at weftex");
  }

  @Test
  void anOlderLedgerThatTheUserMayNotAlterIsNamed() throws Exception {
    ServerSite site = new ServerSite(folder);
    site.server.sql(
        site.live,
        """
        CREATE TABLE skf_weftex_ledger (receipt VARCHAR(64) NOT NULL PRIMARY KEY, change_set CHAR(64) NOT NULL,
          kind VARCHAR(8) NOT NULL, written_at VARCHAR(40) NOT NULL);
        CREATE USER IF NOT EXISTS writer IDENTIFIED BY 'right';
        """
            + "GRANT SELECT, INSERT, UPDATE, DELETE, CREATE, TRIGGER ON "
            + site.live
            + ".* TO writer;");
    site.configure("writer", ", password: {variable: LIVE_PASSWORD}");
    String told = "lacks the right to ALTER, so the ledger skf_weftex_ledger of an older version";
    assertThat(weftex("check").out()).contains(told);
    site.server.sql("", "GRANT ALTER ON " + site.live + ".* TO writer;");
    assertThat(weftex("check").out()).doesNotContain(told);
  }
}
