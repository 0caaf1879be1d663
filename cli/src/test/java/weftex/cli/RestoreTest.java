package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** The day of the merge: live is saved, the merge is bad, and live is back in a minute. */
class RestoreTest {
  @TempDir Path folder;
  private SqliteFile live;

  @BeforeEach
  void makeTheSite() throws Exception {
    DemoSite site = DemoPair.marked(folder);
    site.week();
    live = new SqliteFile(folder.resolve("live.db"));
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private void merge() {
    weftex("draft");
    weftex("review", "--take", "conflicts");
    assertThat(weftex("review", "--approve").status()).isZero();
  }

  private void configure(String line) throws Exception {
    Files.writeString(folder.resolve("weftex.yaml"), line, StandardOpenOption.APPEND);
  }

  private List<Path> points() throws Exception {
    try (Stream<Path> files = Files.list(folder.resolve(".weftex/restore-points"))) {
      return files.sorted().toList();
    }
  }

  @Test
  void aBadMergeIsGoneInAMinuteAndWhatVisitorsWroteIsCountedFirst() throws Exception {
    configure("\nrestore-points: {before-apply: true, keep: 2}\n");
    List<String> before = live.ask("SELECT title || body FROM skf_pages ORDER BY id");
    merge();
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err()).isZero();
    assertThat(applied.err()).contains("Saved live to .weftex/restore-points/skerrow-live-");
    live.run(
        "INSERT INTO skf_comments (page_id, author, body, written_at)"
            + " VALUES (1, 'Kari', 'Is the desk open?', '2026-11-28 10:00:00')");
    assertThat(weftex("history").out()).contains("Restore point: live of ", " kB");

    Program.Ran unsaid = weftex("restore", "live");
    assertThat(unsaid.status()).isEqualTo(4);
    assertThat(unsaid.err())
        .contains("becomes what it was on", "What was added or edited there since goes:")
        .contains("skf_pages", "skf_comments 1 added", "Nobody confirmed it", "--yes skerrow");
    assertThat(weftex("restore", "live", "--yes", "skerow").err())
        .contains("'skerow' is not the name of the site");
    assertThat(live.ask("SELECT title || body FROM skf_pages ORDER BY id")).isNotEqualTo(before);

    Program.Ran restored = weftex("restore", "live", "--yes", "skerrow");
    assertThat(restored.status()).as(restored.err()).isZero();
    assertThat(restored.out()).contains("Restored live as of", "--back");
    assertThat(live.ask("SELECT title || body FROM skf_pages ORDER BY id")).isEqualTo(before);
    // The ledger went back, too, so what was lost is drafted once more.
    merge();
    assertThat(weftex("apply").status()).isZero();
    assertThat(live.ask("SELECT title || body FROM skf_pages ORDER BY id")).isNotEqualTo(before);
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");

    // Two stay.
    weftex("undo");
    merge();
    assertThat(weftex("apply").err()).contains("Removed the restore point");
    assertThat(points()).hasSize(2);
  }

  @Test
  void theTablesBeforeAreSetAsideUntilSomebodyRemovesThem() throws Exception {
    assertThat(weftex("restore", "live", "--back").err()).contains("Nothing of live is set aside");
    assertThat(weftex("save").out())
        .contains("Saved live: 13 tables", "File: .weftex/restore-points/skerrow-live-");
    assertThat(weftex("save", "staging", "-o", "s.sql.gz").status()).isZero();
    assertThat(weftex("save", "-o", "s.sql.gz").err()).contains("is there already");
    live.run("UPDATE skf_pages SET title = 'Later' WHERE id = 1");
    assertThat(weftex("restore", "live", "--yes", "skerrow").status()).isZero();
    assertThat(live.ask("SELECT title FROM skf_pages WHERE id = 1")).doesNotContain("Later");
    Program.Ran back = weftex("restore", "live", "--back", "--yes", "skerrow");
    assertThat(back.out()).as(back.err()).contains("back in their place");
    assertThat(live.ask("SELECT title FROM skf_pages WHERE id = 1")).containsExactly("Later");
    assertThat(weftex("restore", "live", "--yes", "skerrow").status()).isZero();
    assertThat(weftex("restore", "live", "--remove-aside", "--yes", "skerrow").out())
        .contains("Removed what was set aside of live");
    assertThat(folder.resolve("live.db-weftex-aside")).doesNotExist();
  }

  @Test
  void whatIsNoFileOfThisCopyIsRefused() throws Exception {
    assertThat(weftex("save", "staging", "-o", "s.sql").status()).isZero();
    assertThat(weftex("restore").err()).contains("No copy is named");
    assertThat(weftex("restore", "live").err()).contains("There is no restore point of live");
    assertThat(weftex("restore", "live", "s.sql", "--yes", "skerrow").err())
        .contains("s.sql is staging of the site 'skerrow'");
    assertThat(weftex("restore", "live", "none.sql").err()).contains("is not there");
    assertThat(weftex("restore", "live", "a", "b").err()).contains("one argument too many");
    assertThat(weftex("restore", "live", "a", "--back").err()).contains("read no file");
    String text = Files.readString(folder.resolve("s.sql"));
    Files.writeString(folder.resolve("s.sql"), text.replace("Mira", "Mora"));
    assertThat(weftex("restore", "staging", "s.sql", "--yes", "skerrow").err())
        .contains("is not as it was written");
    configure("\nrestore-points: {keep: 0}\n");
    assertThat(weftex("check").err()).contains("'keep' of 'restore-points' must be 1 or more");
  }
}
