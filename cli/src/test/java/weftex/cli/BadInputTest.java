package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/**
 * Whatever is wrong with what it is given: one clear sentence, the right status, and live
 * untouched.
 */
class BadInputTest {
  @TempDir Path folder;
  private byte[] live;

  @BeforeEach
  void makeTheSite() throws Exception {
    DemoSite site = new DemoSite(folder);
    site.build();
    configure("skerrow", "live.db");
    weftex("mark");
    site.week();
    weftex("draft", "--tables", "harbours,fares", "-o", "set.jsonl");
    Files.writeString(folder.resolve("other.json"), "{\"weftex\":\"capture\"}\n");
    live = Files.readAllBytes(folder.resolve("live.db"));
  }

  private void configure(String site, String liveFile) throws Exception {
    Files.writeString(
        folder.resolve("weftex.yaml"),
        "site: "
            + site
            + "\nmodel: "
            + DemoSite.MODEL
            + "\ncopies:\n  staging: {sqlite: staging.db, prefix: skf_, address: 'https://staging.skerrow.example'}\n  live: {sqlite: "
            + liveFile
            + ", prefix: skf_, address: 'https://skerrow.example'}\n");
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private void refused(int status, String message, String... arguments) throws Exception {
    Program.Ran ran = weftex(arguments);
    assertThat(ran.err())
        .contains(message)
        .contains("othing was changed")
        .doesNotContain("Exception");
    assertThat(ran.status()).isEqualTo(status);
    assertThat(Files.readAllBytes(folder.resolve("live.db"))).isEqualTo(live);
  }

  private void edit(String file, String from, String to) throws Exception {
    Path path = folder.resolve(file);
    String text = Files.readString(path);
    assertThat(text).contains(from);
    Files.writeString(path, text.replace(from, to));
  }

  @Test
  void withoutABase() throws Exception {
    try (Stream<Path> base = Files.list(folder.resolve(".weftex/base"))) {
      for (Path file : base.toList()) {
        Files.delete(file);
      }
    }
    refused(2, "No base has been recorded", "compare");
    assertThat(weftex("compare", "--two-way").out())
        .contains("without a base: every difference is a question");
  }

  @Test
  void aBaseOfAnotherSiteOrOfANewerFormat() throws Exception {
    configure("elsewhere", "live.db");
    refused(2, "is of the site 'skerrow', and weftex.yaml is of 'elsewhere'", "compare");
    configure("skerrow", "live.db");
    edit(".weftex/base/manifest.json", "\"format\" : 2", "\"format\" : 9");
    refused(2, "has format 9, and this version reads formats 1 to 4", "compare");
  }

  @Test
  void aChangeSetThatIsHarmed() throws Exception {
    refused(1, "is not approved", "apply", "set.jsonl");
    refused(2, "There is no change set", "apply", "gone.jsonl");
    refused(2, "There is no change set", "review", "gone.jsonl", "--keep", "1");
    refused(2, "There is no change set", "review", "gone.jsonl", "--approve");
    byte[] whole = Files.readAllBytes(folder.resolve("set.jsonl"));
    Files.write(folder.resolve("cut.jsonl"), java.util.Arrays.copyOf(whole, whole.length / 2));
    refused(2, "It was cut short", "apply", "cut.jsonl");
    String text = new String(whole, StandardCharsets.UTF_8);
    Files.writeString(folder.resolve("edited.jsonl"), text.replace("5:30", "4:30"));
    refused(2, "It was altered", "apply", "edited.jsonl");
    Files.writeString(folder.resolve("newer.jsonl"), text.replace("\"format\":4", "\"format\":9"));
    refused(2, "its format is 9, and this version reads formats 1 to 4", "review", "newer.jsonl");
    refused(2, "not the header of a change set", "review", "other.json");
  }

  @Test
  void addressesAndReplacementsThatCantBe() throws Exception {
    Path file = folder.resolve("weftex.yaml");
    String good = Files.readString(file);
    Files.writeString(file, good.replace("'https://staging.skerrow.example'", "skerrow.example"));
    refused(2, "copies.staging: 'skerrow.example' is no base address", "compare");
    Files.writeString(
        file, good.replace("{sqlite: staging.db,", "{sqlite: staging.db, folder: /a//b,"));
    refused(2, "copies.staging: '/a//b' is no folder", "compare");
    Files.writeString(file, good + "replace:\n  - {staging: cdn-test.example}\n");
    refused(2, "'replace.live' is missing", "compare");
    Files.writeString(file, good + "replace:\n  - {staging: //, live: cdn.example}\n");
    refused(2, "replace: '//' names nothing that could be looked for", "compare");
  }

  @Test
  void aChangeSetForAnotherTargetOrSite() throws Exception {
    weftex("review", "set.jsonl", "--approve");
    Files.copy(
        folder.resolve("live.db"), folder.resolve("other.db"), StandardCopyOption.REPLACE_EXISTING);
    configure("skerrow", "other.db");
    refused(4, "It was drafted for live at sqlite", "apply", "set.jsonl");
    configure("elsewhere", "live.db");
    refused(4, "It is for the site 'skerrow'", "apply", "set.jsonl");
  }

  @Test
  void aTableOrColumnThatCameOrWentSinceTheDraft() throws Exception {
    weftex("review", "set.jsonl", "--approve");
    sql("ALTER TABLE skf_harbours ADD COLUMN mood TEXT");
    live = Files.readAllBytes(folder.resolve("live.db"));
    refused(1, "table harbours has a new column mood", "apply", "set.jsonl");
    sql("DROP TABLE skf_fares");
    live = Files.readAllBytes(folder.resolve("live.db"));
    refused(1, "are not those that the change set was drafted for", "apply", "set.jsonl");
    assertThat(weftex("compare").out()).contains("Not compared: fares, only on staging.");
  }

  private void sql(String statement) throws Exception {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("live.db"));
        Statement each = connection.createStatement()) {
      each.execute(statement);
    }
  }

  @Test
  void aTargetThatIsNoDatabaseOrNotThere() throws Exception {
    weftex("review", "set.jsonl", "--approve");
    Files.writeString(
        folder.resolve("live.db"), "not a database, but long enough to be read as one");
    live = Files.readAllBytes(folder.resolve("live.db"));
    refused(3, "is not an SQLite database", "apply", "set.jsonl");
    configure("skerrow", "nowhere.db");
    refused(3, "there is no file", "check");
  }

  @Test
  void decisionsThatFitNothing() throws Exception {
    byte[] before = Files.readAllBytes(folder.resolve("set.jsonl"));
    for (List<String> wrong :
        List.of(
            List.of("--skip", "99"),
            List.of("--take", "1"),
            List.of("--bring", "1"),
            List.of("--skip", "1,nonsense"),
            List.of("--change", "many"))) {
      Program.Ran ran = weftex("review", "set.jsonl", wrong.get(0), wrong.get(1));
      assertThat(ran.status()).as(wrong.toString()).isEqualTo(2);
      assertThat(ran.err()).doesNotContain("Exception");
    }
    // A standing answer to conflicts of which there are none is no mistake, and writes nothing.
    assertThat(weftex("review", "set.jsonl", "--keep", "conflicts").status()).isZero();
    assertThat(Files.readAllBytes(folder.resolve("set.jsonl"))).isEqualTo(before);
  }

  @Test
  void tooFewPeopleApproved() throws Exception {
    Path config = folder.resolve("weftex.yaml");
    String before = Files.readString(config);
    Files.writeString(config, before + "approvals: 0\n");
    refused(2, "'approvals' must be 1 or more", "check");
    Files.writeString(config, before + "approvals: 2\n");
    weftex("draft", "--tables", "harbours", "-o", "two.jsonl");
    assertThat(weftex("review", "two.jsonl", "--approve", "--by", "Mira").out())
        .contains("Approved by Mira", "by 1 more person");
    weftex("review", "two.jsonl", "--approve", "--by", "Mira");
    refused(1, "approved by Mira, and weftex.yaml asks for 2 people", "apply", "two.jsonl");
    assertThat(weftex("review", "two.jsonl", "--approve", "--by", "Odd").out())
        .contains("Next: weftex apply");
    assertThat(weftex("apply", "two.jsonl").status()).isZero();
  }

  @Test
  void aSelectionThatMatchesNothing() throws Exception {
    refused(2, "No table matches 'harbors'", "draft", "--tables", "harbors");
    refused(2, "Did you mean 'harbours'?", "compare", "--table", "harbors");
    refused(2, "names no rows", "draft", "--rows", "harbours");
    assertThat(weftex("draft", "--tables", "accounts").err()).contains("No change set was written");
  }

  @Test
  void aPlaceToWriteToThatIsNoFile() throws Exception {
    Files.createDirectory(folder.resolve("taken"));
    refused(2, "taken is no ordinary file", "draft", "-o", "taken", "--overwrite");
    refused(4, "taken is a folder", "report", "set.jsonl", "-o", "taken");
    assertThat(folder.resolve("taken")).isEmptyDirectory();
  }

  @Test
  void theNextStepNamesTheChangeSetThatIsMeant() throws Exception {
    assertThat(weftex("draft", "--tables", "harbours", "-o", "one.jsonl").out())
        .contains("Next: weftex review one.jsonl");
    assertThat(weftex("review", "one.jsonl").out())
        .contains("Next: weftex review one.jsonl --approve");
    assertThat(weftex("review", "one.jsonl", "--approve").out())
        .contains("Next: weftex apply one.jsonl");
    assertThat(weftex("check").out())
        .contains("Base: staging of ", "Next: 'weftex compare' shows what changed since the base.");
  }

  @Test
  void nothingToUndo() throws Exception {
    refused(2, "Nothing was applied here that is not undone already", "undo");
    refused(2, "There is no receipt 'x' of an apply", "undo", "x");
    assertThat(weftex("history").out()).contains("Nothing was applied yet.");
  }
}
