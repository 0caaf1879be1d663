package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.cli.result.RestoreReport;
import weftex.store.dump.Restoring;

class RestoreTextTest {
  private static final String ASIDE =
      """
      The tables before are set aside: 'weftex restore live --back' returns to them, 'weftex restore live
      --remove-aside' removes them.
      """;

  private static String printed(RestoreReport report) {
    return Printed.of(page -> RestoreText.print(page, report));
  }

  private static RestoreReport report(
      String does, String taken, String database, Optional<RestoreReport.Kept> kept) {
    return new RestoreReport(
        does,
        "live",
        "live.sql",
        taken,
        new RestoreReport.Contents(12, 1, Map.of()),
        database,
        kept,
        Optional.empty(),
        4.25);
  }

  @Test
  void aRestorePointIsCalledByItsTimeAndAnotherFileByItsName() {
    assertThat(printed(report("restored", "2026-11-20T08:30:00Z", "", Optional.empty())))
        .isEqualTo(
            """
            Restored live as of 2026-11-20 08:30 UTC: 12 tables, 1 row, in 4.3 s.
            """
                + ASIDE
                + """
                Next: look at the site, then weftex check
                """);
    assertThat(printed(report("restored", "", "", Optional.empty())))
        .startsWith("Restored live from live.sql: 12 tables");
  }

  @Test
  void beforeAnotherDatabaseIsUsedTwoConfigurationsMustNameIt() {
    assertThat(printed(report("restored", "", "look", Optional.empty())))
        .isEqualTo(
            """
            Put it into the database look: 12 tables, 1 row, in 4.3 s.
            live is as it was. To use the new database, write 'look' for the old one in weftex.yaml and in the
            site's own configuration, such as define( 'DB_NAME', 'look' ); in a wp-config.php.
            """);
  }

  @Test
  void aCopyThatWasMadeAnewSaysWhatItKeptAndWhetherTheBaseIsRecorded() {
    RestoreReport made =
        report("remade", "", "", Optional.of(new RestoreReport.Kept(3, 1, 2, List.of("sessions"))));
    assertThat(printed(made))
        .startsWith("Made live anew from live.sql: 12 tables")
        .contains(
            "live keeps of its own: 3 rows of settings and keys, 1 password of accounts that both")
        .contains("Left empty, as the site fills them itself: sessions.")
        .endsWith("Next: look at the site, then weftex mark --from-file live.sql\n");
    assertThat(printed(made.withBase(40)))
        .contains("Recorded it as the base: 40 rows.\n")
        .endsWith("Next: look at the site, then weftex check\n");
  }

  @Test
  void whatIsSetAsideComesBackOrGoes() {
    assertThat(printed(RestoreReport.of("removed", "live")))
        .isEqualTo("Removed what was set aside of live.\n");
    assertThat(printed(RestoreReport.of("back", "live")))
        .isEqualTo(
            """
            Put the tables of live that were set aside back in their place.
            Next: weftex check
            """);
    assertThat(printed(RestoreReport.of("emptied", "live")))
        .isEqualTo("Took all tables of live away.\n" + ASIDE);
  }

  @Test
  void aCopyThatKeepsNothingSaysSo() {
    assertThat(RestoreText.kept("staging", new RestoreReport.Kept(0, 0, 0, List.of())))
        .isEqualTo("staging keeps nothing of its own.");
  }

  @Test
  void whatARestoreTakesAwayIsListedByTable() {
    Map<String, Restoring.Since> since = new LinkedHashMap<>();
    since.put("comments", new Restoring.Since(2, 0));
    since.put("pages", new Restoring.Since(1, 3));
    assertThat(RestoreText.since(since)).isEqualTo("comments 2 added, pages 1 added 3 edited");
    assertThat(RestoreText.apart(since))
        .isEqualTo("comments 2 only there, pages 1 only there 3 different");
    assertThat(RestoreText.rows(since)).isEqualTo("comments 2 rows, pages 1 row");
    assertThat(RestoreText.rows(Map.of())).isEqualTo("none has a row");
  }
}
