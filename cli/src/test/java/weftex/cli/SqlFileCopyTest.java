package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** Live is reached by a hosting panel alone, which exports and imports files. */
class SqlFileCopyTest {
  private static final String TITLES = "SELECT title FROM skf_pages WHERE title LIKE 'Winter%'";

  @TempDir Path folder;
  private PanelSite panel;
  private DemoSite site;

  @BeforeEach
  void aSiteOfWhichLiveIsAFile() throws Exception {
    panel = new PanelSite(folder);
    site = panel.site;
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  @Test
  void itIsMergedIntoAnotherFileAndTheNextExportGoesOnFromThere() throws Exception {
    Program.Ran marked = weftex("mark");
    assertThat(marked.status()).as(marked.err()).isZero();
    site.week();
    panel.export();
    byte[] exported = Files.readAllBytes(folder.resolve("live.sql.gz"));
    assertThat(weftex("compare").out()).contains("page 'Winter timetable' · added");
    weftex("draft");
    weftex("review", "--take", "conflicts");
    assertThat(weftex("review", "--approve").status()).isZero();
    assertThat(weftex("apply").err())
        .contains("live is the file live.sql.gz, which is never written to");
    Program.Ran applied = weftex("apply", "-o", "merged.sql");
    assertThat(applied.status()).as(applied.err()).isZero();
    assertThat(applied.err())
        .contains("Wrote merged.sql (", "what visitors wrote since live.sql.gz was exported");
    assertThat(Files.readAllBytes(folder.resolve("live.sql.gz"))).isEqualTo(exported);
    assertThat(weftex("apply", "-o", "merged.sql").err()).contains("is there already");
    assertThat(weftex("undo").err()).contains("which is never written to");
    assertThat(weftex("restore", "live").err()).contains("which is never written to");
    // It counts once the panel has it.
    assertThat(weftex("compare").out()).contains("page 'Winter timetable' · added");

    try (Connection live = panel.connection();
        Statement statement = live.createStatement()) {
      panel.each("merged.sql", statement::execute);
    }
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    assertThat(live.ask(TITLES)).contains("Winter timetable");
    live.run(
        "INSERT INTO skf_comments (page_id, author, body, written_at)"
            + " VALUES (1, 'Kari', 'Open?', '2026-11-28 10:00:00')");
    panel.export();
    Program.Ran nothing = weftex("draft");
    assertThat(nothing.err())
        .as(nothing.out())
        .contains("Nothing that was chosen differs")
        .doesNotContain("does not know of the base");
    new SqliteFile(folder.resolve("staging.db"))
        .run("UPDATE skf_pages SET title = 'Winter 2027' WHERE title = 'Winter timetable'");
    assertThat(weftex("compare").out())
        .contains("page 'Winter 2027' · title")
        .doesNotContain("added ·", "· added");
  }

  @Test
  void aFileIsTheTargetOfADatabaseAloneIfSomebodySaysSo() throws Exception {
    assertThat(weftex("mark").status()).isZero();
    site.week();
    panel.export();
    // Live's news into staging needs no other file.
    weftex("draft", "--into", "staging");
    weftex("review", "--take", "conflicts");
    assertThat(weftex("review", "--approve").status()).isZero();
    assertThat(weftex("apply", "-o", "x.sql").err())
        .contains("staging is a database, and -o and --script are for a copy that is a file");
    assertThat(weftex("apply").status()).isZero();
    assertThat(weftex("undo").status()).isZero();
    Files.writeString(folder.resolve("live.sql.gz"), "GRANT ALL ON *.* TO x;");
    assertThat(weftex("compare").err()).contains("nothing says on which server it may be");
  }
}
