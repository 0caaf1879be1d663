package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.demo.DemoSite;

/** A base out of a backup of the time when both copies were alike. */
class BaseFromFileTest {
  @TempDir Path folder;
  private DemoSite site;

  @BeforeEach
  void backupsOfBothCopiesWhileTheyAreAlike() throws Exception {
    site = DemoPair.marked(folder);
    for (String copy : new String[] {"live", "staging"}) {
      Files.copy(folder.resolve(copy + ".db"), folder.resolve(copy + "-old.db"));
    }
  }

  /** The same as a file of SQL. */
  private void save(String copy) {
    assertThat(weftex("save", copy, "-o", copy + "-old.sql.gz").status()).isZero();
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private String compared() {
    return weftex("compare").out().replaceAll("base: .*", "");
  }

  @ParameterizedTest
  @ValueSource(strings = {"live-old.db", "live-old.sql.gz"})
  void whatChangedSinceIsFoundAsWithARecordedBase(String backup) throws Exception {
    if (backup.endsWith(".gz")) {
      save("live");
    }
    site.week();
    String recorded = compared();
    Program.Ran marked = weftex("mark", "--from-file", backup);
    assertThat(marked.status()).as(marked.err()).isZero();
    assertThat(marked.out())
        .contains("Recorded " + backup + " as the base, which is live as it was then:")
        .contains("staging has", "only on the file", "only on staging")
        .contains("The base before is kept ('weftex mark --back').");
    assertThat(compared()).isEqualTo(recorded);
    assertThat(weftex("compare").out()).contains("base: live of");
    assertThat(folder.resolve(".weftex/scratch/base.db")).doesNotExist();
  }

  @Test
  void aBackupThatIsOlderThanAMergeIsRefused() throws Exception {
    save("live");
    new SqliteFile(folder.resolve("staging.db"))
        .run("UPDATE skf_pages SET title = 'Fares and cards' WHERE slug = 'fares'");
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    Program.Ran late = weftex("mark", "--from-file", "live-old.sql.gz");
    assertThat(late.status()).isEqualTo(4);
    assertThat(late.err())
        .contains("1 merge was made since live-old.sql.gz was written")
        .contains("No base was recorded.", "name a newer backup");
  }

  @Test
  void aBackupOfStagingIsOneToo() throws Exception {
    save("staging");
    site.week();
    String recorded = compared();
    assertThat(weftex("mark", "--from", "staging", "--from-file", "staging-old.sql.gz").status())
        .isZero();
    assertThat(compared()).isEqualTo(recorded);
  }

  @Test
  void whatIsNoBackupOfTheCopyIsRefused() throws Exception {
    String before = Files.readString(folder.resolve(".weftex/base/manifest.json"));
    Program.Ran other = weftex("mark", "--from-file", "staging-old.db");
    assertThat(other.status()).isEqualTo(4);
    assertThat(other.err())
        .contains(
            "staging-old.db is no backup of live: it knows itself as"
                + " https://staging.skerrow.example, and live is https://skerrow.example.")
        .contains("No base was recorded", "say with --from");
    assertThat(weftex("mark", "--from-file", "no-such.sql").err())
        .contains("no-such.sql")
        .contains("is not there");
    assertThat(weftex("mark", "--from-file", ".").status()).isEqualTo(2);
    Files.writeString(folder.resolve("words.txt"), "no database at all");
    assertThat(weftex("mark", "--from-file", "words.txt").status()).isNotZero();
    assertThat(weftex("mark", "--from-file", "live-old.db", "--back").status()).isEqualTo(2);
    assertThat(Files.readString(folder.resolve(".weftex/base/manifest.json"))).isEqualTo(before);
  }

  @Test
  void aBackupThatHasHardlyARowInCommonIsRefusedUnlessSomebodyKnowsBetter() throws Exception {
    SqliteFile old = new SqliteFile(folder.resolve("live-old.db"));
    old.run("UPDATE skf_pages SET title = 'x' || title");
    old.run("UPDATE skf_sailings SET vessel = 'x' || vessel");
    old.run("UPDATE skf_harbours SET name = 'x' || name");
    old.run("UPDATE skf_routes SET minutes = minutes + 1");
    old.run("UPDATE skf_fares SET price = price + 1");
    old.run("UPDATE skf_pictures SET caption = 'x' || caption");
    Program.Ran marked = weftex("mark", "--from-file", "live-old.db");
    assertThat(marked.status()).isEqualTo(4);
    assertThat(marked.err())
        .contains("hardly is what both copies came from. No base was recorded.");
    assertThat(weftex("mark", "--from-file", "live-old.db", "--although-different").status())
        .isZero();
  }
}
