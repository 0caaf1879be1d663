package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.demo.DemoSite;

/** Who may see a report need not see who wrote to the site. */
class PersonalDataTest {
  @TempDir Path folder;

  private Program.Ran done(String... arguments) {
    Program.Ran ran = new Program(folder).run(arguments);
    assertThat(ran.status()).as(ran.out() + ran.err()).isLessThan(2);
    return ran;
  }

  private String report(String format, String... more) throws Exception {
    List<String> words =
        new java.util.ArrayList<>(List.of("report", "set.jsonl", "--format", format, "-o", "r"));
    words.addAll(List.of(more));
    String said = done(words.toArray(String[]::new)).out();
    assertThat(said.contains("of personal data (--personal shows")).isEqualTo(more.length == 0);
    return Files.readString(folder.resolve("r"));
  }

  private void draft() throws Exception {
    DemoPair.marked(folder);
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    live.run(
        "INSERT INTO skf_comments (page_id, author, body, written_at) VALUES (1, 'Ragnvald Oye', 'When does it sail?', '2026-11-20 08:00:00')");
    live.run("UPDATE skf_comments SET author = 'Torbjorg Vik' WHERE id = 1");
    staging.run("UPDATE skf_comments SET author = 'Sunniva Moe' WHERE id = 1");
    done("draft", "--into", "staging", "--with", "comments", "-o", "set.jsonl");
  }

  @ParameterizedTest
  @ValueSource(strings = {"html", "markdown", "csv"})
  void aReportNamesNobodyUnlessItIsAskedTo(String format) throws Exception {
    draft();
    String before =
        new SqliteFile(folder.resolve("staging.db"))
            .ask("SELECT author FROM skf_comments WHERE id = 2")
            .get(0);
    assertThat(report(format, "--personal")).contains("Ragnvald Oye", "Torbjorg");
    String masked = report(format);
    assertThat(masked)
        .contains("comment", "no. 1")
        .doesNotContain("Ragnvald", "Torbjorg", "Sunniva", before);
    if (format.equals("html")) {
      assertThat(masked).contains("(personal)", "(personal, edited)", "When does it sail?");
    }
  }

  @Test
  void theModelSaysWhichRowsItHoldsFor() throws Exception {
    draft();
    Path model = folder.resolve(DemoSite.MODEL);
    Files.writeString(
        model,
        Files.readString(model)
            .replace(
                "personal: [author]}", "personal: [{column: body, when: {author: 'Ragn*'}}]}"));
    assertThat(report("markdown"))
        .contains("Ragnvald Oye", "Torbjorg")
        .doesNotContain("When does it sail?");
  }
}
