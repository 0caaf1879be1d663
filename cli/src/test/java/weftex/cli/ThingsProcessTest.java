package weftex.cli;

import static java.nio.file.StandardCopyOption.REPLACE_EXISTING;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Things, whose they are, scan and model, as the program tells them. */
class ThingsProcessTest {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String MODEL =
      """
      model: small
      people: {table: people, known-by: [login]}
      steps:
        - {say: "Look at the front page."}
      tables:
        pages:
          item: {kind: page, name: [title]}
          identity: [slug]
          references: {author: {to: people, unset: "0"}}
          counters: {notes: {of: notes, by: page}}
          rows: [{when: {title: ["~*"]}, role: noise}]
        details:
          part-of: page
          word: detail
          references: {page: {to: pages}}
        notes:
          item: {kind: note, name: [text]}
          role: live
          references: {page: {to: pages}}
        people:
          item: {kind: person, name: [login]}
          role: live
          identity: [login]
          secret: [hash]
      """;

  @TempDir Path folder;

  @BeforeEach
  void site() throws Exception {
    for (String copy : List.of("staging", "live")) {
      on(
          copy,
          "CREATE TABLE pages (id INTEGER PRIMARY KEY AUTOINCREMENT, slug TEXT, title TEXT, author INTEGER NOT NULL DEFAULT 0, notes INTEGER NOT NULL DEFAULT 0)",
          "CREATE TABLE details (id INTEGER PRIMARY KEY AUTOINCREMENT, page INTEGER, value TEXT)",
          "CREATE TABLE notes (id INTEGER PRIMARY KEY AUTOINCREMENT, page INTEGER, text TEXT)",
          "CREATE TABLE people (id INTEGER PRIMARY KEY AUTOINCREMENT, login TEXT, hash TEXT NOT NULL)",
          "INSERT INTO pages VALUES (1, 'home', 'Home', 1, 0)",
          "INSERT INTO people VALUES (1, 'mira', 'h')");
    }
    Files.writeString(folder.resolve("small.yaml"), MODEL);
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        model: small.yaml
        copies:
          staging: {sqlite: staging.db, address: "https://staging.skerrow.example"}
          live: {sqlite: live.db, address: "https://skerrow.example"}
        people: {tester: mira}
        """);
    assertThat(weftex("mark").err()).isEmpty();
    on(
        "staging",
        "INSERT INTO pages VALUES (2, 'winter', 'Winter', 2, 0), (3, 'auto', '~draft', 0, 0), (4, 'crew', 'Crew', 3, 0)",
        "INSERT INTO details VALUES (1, 2, 'cold'), (2, 3, 'none'), (3, 4, 'warm')",
        "INSERT INTO people VALUES (2, 'tester', 'x'), (3, 'new', 'y')",
        "INSERT INTO notes VALUES (1, 1, 'only a test')");
    on("live", "INSERT INTO people VALUES (2, 'kunde', 'z')");
  }

  private void on(String copy, String... statements) throws Exception {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(copy + ".db"));
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  @Test
  void compareSpeaksOfThingsAndOfWhatStaysOut() {
    assertThat(weftex("compare").out())
        .contains(
            "page 'Winter' · added, 1 detail added",
            "page 'Crew' · added, 1 detail added",
            "Left out as live's own:",
            "note, 1 row",
            "Left out as noise: page, 2 rows ('--with noise' brings them)")
        .doesNotContain("~draft");
  }

  @Test
  void aChosenThingIsReviewedWithItsPartsAndItsAuthorIsKnown() throws Exception {
    assertThat(weftex("draft", "--item", "page:Win*").out()).contains("2 to add, 0 to update");
    assertThat(weftex("review").out())
        .contains("1-2 apply  page 'Winter' · added, 1 detail added")
        .doesNotContain("To decide");
    assertThat(weftex("review", "--values").out()).contains("author", "detail of page 'Winter'");
    weftex("review", "--approve");
    Program.Ran applied = weftex("apply");
    assertThat(applied.out())
        .contains(
            "Applied staging → live: 2 rows added", "Left for you:", "[ ] Look at the front page.");
    JsonNode receipt = JSON.readTree(weftex("history", "--json").out()).get("events").get(0);
    assertThat(receipt.get("adds").asInt()).isEqualTo(2);
    on(
        "live",
        "UPDATE pages SET title = CASE author WHEN 1 THEN 'by mira' END WHERE slug = 'winter'");
    assertThat(weftex("compare", "--two-way", "--table", "pages").out()).contains("by mira");
  }

  @Test
  void anUnknownAuthorIsAQuestionAndHisSecretStaysBehind() {
    Program.Ran drafted = weftex("draft", "--item", "page:Crew");
    assertThat(drafted.status()).isEqualTo(1);
    assertThat(drafted.out()).contains("1 change needs a decision", "1 more change is offered");
    assertThat(weftex("review", "--bring", "person:new").status()).isZero();
    assertThat(weftex("review", "--values").out())
        .contains("add person 'new'", "hash              \"\"");
    assertThat(weftex("draft", "--item", "page:Crew", "--item", "person", "--with", "people").out())
        .contains("Careful: this brings what belongs to live itself: person, 1 row.");
  }

  @Test
  void aThingIsSkippedWithItsParts() {
    weftex("draft");
    Program.Ran reviewed = weftex("review", "--skip", "page:Crew,offers");
    assertThat(reviewed.err()).isEmpty();
    assertThat(reviewed.status()).isZero();
    assertThat(weftex("review").out()).containsPattern("skip\\s+page 'Crew'");
    Program.Ran wrong = weftex("review", "--skip", "page:Nowhere");
    assertThat(wrong.status()).isEqualTo(2);
    assertThat(wrong.err()).contains("'page:Nowhere' matches no change");
  }

  @Test
  void aScanFindsWhatIsWrong() throws Exception {
    assertThat(weftex("scan").status()).isZero();
    on(
        "live",
        "INSERT INTO details VALUES (9, 77, 'https://staging.skerrow.example/x')",
        "UPDATE pages SET notes = 4 WHERE id = 1");
    Program.Ran scanned = weftex("scan");
    assertThat(scanned.status()).isEqualTo(1);
    assertThat(scanned.out())
        .contains(
            "details.value: 1 row (plain 1)",
            "9 · pages 77",
            "1 · it holds 4, and there are 0",
            "Not looked for: missing-file");
    JsonNode sorts = JSON.readTree(weftex("scan", "live", "--json").out()).get("sorts");
    assertThat(sorts.findValuesAsText("kind"))
        .containsExactly("leftover", "broken-reference", "counter");
    assertThat(weftex("scan", "elsewhere").err()).contains("There is no copy 'elsewhere'");
  }

  @Test
  void anApplySaysWhatIsWrongInTheRowsThatItTouched() throws Exception {
    on("live", "UPDATE pages SET title = 'https://staging.skerrow.example/old'");
    Files.copy(folder.resolve("live.db"), folder.resolve("staging.db"), REPLACE_EXISTING);
    assertThat(weftex("mark").err()).isEmpty();
    on("staging", "UPDATE pages SET title = 'New' WHERE id = 1");
    weftex("draft", "--item", "page:New", "-o", "set.jsonl");
    weftex("review", "set.jsonl", "--approve");
    assertThat(weftex("apply", "set.jsonl").out())
        .contains("leftover in touched rows: 1 before, 0 expected, 0 now")
        .doesNotContain("broken-reference in touched rows");
    on("staging", "INSERT INTO details VALUES (50, 999, 'of nothing')");
    weftex("draft", "--tables", "details", "--rows", "details:50", "-o", "more.jsonl");
    weftex("review", "more.jsonl", "--approve");
    Program.Ran applied = weftex("apply", "more.jsonl");
    assertThat(applied.err()).contains("Expected in touched rows: broken-reference in 1 row.");
    assertThat(applied.out())
        .contains("broken-reference in touched rows: 0 before, 1 expected, 1 now");
    assertThat(weftex("apply", "more.jsonl").err()).isEmpty();
  }

  @Test
  void aModelIsShownGuessedAndChecked() throws Exception {
    assertThat(weftex("model").out())
        .contains(
            "Model small",
            "pages: content · small",
            "author refers to people · small",
            "rows are numbered by id · schema");
    Program.Ran guessed = weftex("model", "--guess", "--tables", "details", "-o", "guess.yaml");
    assertThat(guessed.out()).contains("Guessed a model of 1 table: guess.yaml");
    assertThat(weftex("model", "--validate", "guess.yaml").status()).isZero();
    assertThat(weftex("model", "--guess", "-o", "guess.yaml").status()).isEqualTo(4);
    Files.writeString(
        folder.resolve("wrong.yaml"),
        "model: m\ntables:\n  page: {}\n  notes:\n    references: {pagge: {to: pages}}\n");
    Program.Ran missing = weftex("model", "--validate", "wrong.yaml");
    assertThat(missing.status()).isEqualTo(1);
    assertThat(missing.out())
        .contains("table page (live has pages)", "notes.pagge (live has page)");
    Files.writeString(
        folder.resolve("wrong.yaml"), "model: m\ntables:\n  pages:\n    rolle: live\n");
    assertThat(weftex("model", "--validate", "wrong.yaml").err())
        .contains("line 4", "unknown key 'rolle'", "role");
  }
}
