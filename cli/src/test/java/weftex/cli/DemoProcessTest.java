package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.testing.ReceiptText;

/** The demo, and what stands in its folder afterwards. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DemoProcessTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  private Path folder;
  private Path site;
  private Program.Ran demo;

  @BeforeAll
  void runTheDemo(@TempDir Path temporary) {
    folder = temporary;
    site = temporary.resolve("skerrow-demo");
    demo = new Program(folder).runAlone("demo", "--no-pause");
  }

  @Test
  void itsPairKnowsBothAddresses() throws Exception {
    assertThat(Files.readString(site.resolve("weftex.yaml")))
        .contains(
            "address: \"https://staging.skerrow.example\"", "address: \"https://skerrow.example\"");
  }

  @Test
  void insideTheHighlightsBothSidesAndTheNewNumberStandBeforeTheUndo() throws Exception {
    Path receipt;
    try (var receipts = Files.list(site.resolve(".weftex/receipts"))) {
      receipt = receipts.sorted().findFirst().orElseThrow();
    }
    assertThat(ReceiptText.of(receipt))
        .contains(
            "Find your crossing\\\";s:5:\\\"pages\\\";a:2:{i:0;i:15;i:1;i:4;}",
            "s:50:\\\"https://skerrow.example/media/winter-timetable.jpg\\\"",
            "class=\\\"picture-7\\\"");
  }

  @Test
  void walksThroughTheWholeJobWithRealOutput() {
    assertThat(demo.status()).as(demo.err()).isZero();
    String page =
        "  before-apply: The holding page is up.\n  after-apply: The holding page is down again.\n";
    assertThat(demo.err())
        .isEqualTo(page + page + "weftex: Taking back harbour 'Brae'; the rest stays.\n");
    assertThat(demo.out())
        .containsSubsequence(
            "$ weftex check",
            "$ weftex compare",
            "Addresses that become those of live:",
            "pages.body         2          3  plain 3",
            "$ weftex compare --table pages",
            "pages 13 (gets a new ID: live has or had another row 13)",
            "$ weftex compare --table settings",
            "i:0;i:‹pages#13›;i:1;i:4;",
            "$ weftex draft --without sailings --save-selection week",
            "8 to add, 9 to update, 4 to remove",
            "To be made first on live: column 'routes.booking_fee', table 'booking_offers'.",
            "$ weftex review",
            "comment 'Tove' · removed · since it goes with page 'Summer festival",
            "page 'Fares and cards' · body, title · both-edited",
            "To decide:",
            "both-edited: Both copies edited title of page 'Fares and cards'.",
            "$ weftex draft --again",
            "Fell away: keep live's side for page 'Lost property'",
            "$ weftex review --keep 6 --by 'Jo Tveit'",
            "$ weftex report -o review.html",
            "Report of 25 changes: review.html",
            "$ weftex review --approve",
            "Approved by Mira Tangen",
            "$ weftex apply",
            "Made on live: column 'routes.booking_fee', table 'booking_offers'.",
            "Applied staging → live: 8 rows added, 9 updated, 1 removed",
            "Files: 1 brought, 1 replaced; each was read back and verified.",
            "page 'Winter timetable' · added; new ID 15",
            "This change set was applied on",
            "$ weftex undo",
            "menu entry 'Festival' · brought back",
            "page 'Work with us' · removed",
            "route '3' · booking_fee as before, 1 fare as before",
            "page 'Fares and cards' · body as before",
            "Taken away again: table 'booking_offers', column 'routes.booking_fee'.",
            "pages 15 is in use: 1 row of comments",
            "$ weftex compare --table pages",
            "update page 'Winter timetable 2027' · pages 15",
            "$ weftex draft --selection week",
            "$ weftex review --keep conflicts --by 'Jo Tveit'",
            "22 changes: 17 to apply, 5 kept as they are.",
            "$ weftex undo --item harbour:Brae",
            "Undone on live: 0 added rows removed, 1 updated row restored, 0 removed rows brought back.",
            "harbour 'Brae' · guide as before",
            "$ weftex draft --into staging --everything",
            "Live's own rows that come along: account, 1 row; booking, 4 rows; comment, 5 rows.",
            "Applied live → staging: 10 rows added, 5 updated, 1 removed",
            "$ weftex history",
            "The demo is in " + site);
  }

  @Test
  void leavesALiveCopyThatKeptEverythingOfItsOwn() throws Exception {
    assertThat(ask("live.db", "SELECT title FROM skf_pages WHERE id IN (4, 9, 13) ORDER BY id"))
        .containsExactly("Fares 2027", "Summer festival 2026", "Storm on Thursday");
    assertThat(ask("live.db", "SELECT value FROM skf_settings WHERE name = 'tagline'"))
        .containsExactly("Four islands, one family");
    assertThat(ask("live.db", "SELECT COUNT(*) FROM skf_bookings")).containsExactly("4");
    assertThat(ask("live.db", "SELECT title FROM skf_pages WHERE id = 15"))
        .containsExactly("Winter timetable 2027");
    assertThat(ask("staging.db", "SELECT passenger FROM skf_bookings WHERE id = 4"))
        .containsExactly("Sunniva Aas");
  }

  private List<String> ask(String file, String query) throws Exception {
    List<String> found = new ArrayList<>();
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + site.resolve(file));
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        found.add(rows.getString(1));
      }
    }
    return found;
  }

  @Test
  void itsFilesFollowTheDocumentedSchema() throws Exception {
    JsonSchema schema =
        JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
            .getSchema(Files.readString(Path.of("..", "docs", "change-set.schema.json")));
    try (Stream<Path> files = Files.list(site.resolve(".weftex/change-sets"))) {
      List<Path> all = files.filter(file -> file.toString().endsWith(".jsonl")).toList();
      assertThat(all).isNotEmpty();
      for (Path file : all) {
        for (String line : Files.readAllLines(file)) {
          assertThat(schema.validate(JSON.readTree(line))).as(line).isEmpty();
        }
      }
    }
    assertThat(schema.validate(JSON.readTree("{\"change\": 1, \"do\": \"destroy\"}"))).isNotEmpty();
  }

  @Test
  void itsStateIsReadableByItsOwnerOnly() throws Exception {
    try (Stream<Path> files = Files.walk(site.resolve(".weftex"))) {
      assertThat(files)
          .allSatisfy(
              file ->
                  assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
                      .endsWith("------"));
    }
  }

  @Test
  void everyReportHasAJsonShape() throws Exception {
    for (String[] command :
        new String[][] {
          {"check"},
          {"compare"},
          {"compare", "--table", "pages"},
          {"review"},
          {"history"},
          {"draft", "--tables", "harbours,fares"}
        }) {
      String[] arguments =
          Stream.concat(Stream.of(command), Stream.of("--json")).toArray(String[]::new);
      Program.Ran ran = new Program(site).run(arguments);
      assertThat(ran.status()).as(String.join(" ", command) + ran.err()).isIn(0, 1);
      JsonNode node = JSON.readTree(ran.out());
      assertThat(node.isObject()).as(ran.out()).isTrue();
    }
    JsonNode tables = JSON.readTree(new Program(site).run("compare", "--json").out()).get("tables");
    assertThat(tables.findValuesAsText("name")).contains("pages", "comments");
    assertThat(tables.get(0).has("conflicts")).isTrue();
  }

  @Test
  void aSecondRunReplacesItsOwnFolderAndNothingElse(@TempDir Path other) throws Exception {
    Files.createDirectory(other.resolve("mine"));
    Files.writeString(other.resolve("mine/letter.txt"), "keep me");
    Program.Ran refused = new Program(other).run("demo", "mine", "--no-pause");
    assertThat(refused.status()).isEqualTo(4);
    assertThat(refused.err()).contains("was not made by the demo", "Nothing was changed");
    assertThat(other.resolve("mine/letter.txt")).hasContent("keep me");

    assertThat(new ProcessBuilder("cp", "-a", "" + site, "" + other).inheritIO().start().waitFor())
        .isZero();
    Files.writeString(other.resolve("skerrow-demo/own.txt"), "x");
    assertThat(new Program(other).run("demo", "--keep", "--no-pause").out())
        .contains("skerrow-demo-2");
    assertThat(other.resolve("skerrow-demo/own.txt")).exists();
    assertThat(new Program(other).run("demo", "--no-pause").status()).isZero();
    assertThat(other.resolve("skerrow-demo/own.txt")).doesNotExist();
  }
}
