package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What happens inside of values, as the program tells it. */
class InsideProcessTest {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String MODEL =
      """
      model: small
      address: {table: settings, where: {name: home}, column: value}
      tables:
        pages: {}
        settings:
          identity: [name]
          stays: {name: [home]}
      """;

  @TempDir Path folder;

  @BeforeEach
  void site() throws Exception {
    for (String copy : List.of("staging", "live")) {
      String url = "https://" + (copy.equals("live") ? "" : "staging.") + "skerrow.example";
      on(
          copy,
          "CREATE TABLE pages (id INTEGER PRIMARY KEY AUTOINCREMENT, slug TEXT NOT NULL UNIQUE, body TEXT)",
          "CREATE TABLE settings (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE, value TEXT)",
          "INSERT INTO pages VALUES (1, 'home', '<a href=\"" + url + "/fares\">Fares</a>')",
          "INSERT INTO settings VALUES (1, 'home', '"
              + url
              + "'), (2, 'theme', '{\"front\":1,\"colour\":\"navy\",\"width\":900}')");
    }
    Files.writeString(folder.resolve("small.yaml"), MODEL);
    Program.Ran paired =
        weftex(
            "pair",
            "--site",
            "skerrow",
            "--model",
            "small.yaml",
            "--staging",
            "sqlite:staging.db",
            "--live",
            "sqlite:live.db");
    assertThat(paired.out()).contains("known as https://staging.skerrow.example");
    assertThat(weftex("mark").status()).isZero();
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

  private List<String> live(String query) throws Exception {
    List<String> found = new ArrayList<>();
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("live.db"));
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        found.add(rows.getString(1));
      }
    }
    return found;
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private void append(String file, String text) throws Exception {
    Files.writeString(folder.resolve(file), Files.readString(folder.resolve(file)) + text);
  }

  @Test
  void copiesThatDifferByAddressAloneDoNotDiffer() {
    Program.Ran compared = weftex("compare");
    assertThat(compared.status()).isZero();
    assertThat(compared.out()).contains("No table differs.").doesNotContain("Addresses");
  }

  @Test
  void whatIsMappedIsToldByColumnAndForm() throws Exception {
    on(
        "staging",
        "UPDATE pages SET body = 'https://staging.skerrow.example https:\\/\\/staging.skerrow.example //staging.skerrow.example/a'");
    JsonNode inside = JSON.readTree(weftex("compare", "--json").out()).get("inside");
    assertThat(inside.get("addresses")).hasSize(1);
    JsonNode mapped = inside.get("addresses").get(0);
    assertThat(mapped.get("table").asText() + "." + mapped.get("column").asText())
        .isEqualTo("pages.body");
    assertThat(mapped.get("rows").asInt()).isEqualTo(1);
    assertThat(mapped.get("hits").asInt()).isEqualTo(3);
    assertThat(mapped.get("forms").toString())
        .isEqualTo("{\"JSON-escaped\":1,\"plain\":1,\"without scheme\":1}");
    assertThat(weftex("draft").out())
        .contains("Addresses that become those of live:")
        .contains("JSON-escaped 1, plain 1, without scheme 1");
  }

  @Test
  void aSuspiciousNumberIsDeclaredByTheRuleThatIsShown() throws Exception {
    on(
        "staging",
        "INSERT INTO pages VALUES (12, 'winter', NULL)",
        "UPDATE settings SET value = '{\"front\":12,\"colour\":\"navy\",\"width\":900}' WHERE id = 2");
    on("live", "INSERT INTO pages VALUES (12, 'storm', NULL)");
    String rule = "inside: {value: [{refers: [{path: \"front\", to: pages}]}]}";
    assertThat(weftex("compare").out())
        .contains("settings 2, value, front: 12 (pages 12)")
        .contains("settings: {" + rule + "}");
    append("small.yaml", "    " + rule + "\n");
    assertThat(weftex("compare").out()).doesNotContain("These numbers equal");
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(live("SELECT value FROM settings WHERE id = 2"))
        .containsExactly("{\"front\":13,\"colour\":\"navy\",\"width\":900}");
  }

  @Test
  void aMalformedValueIsToldWithItsPlaceAndMovesAsItIs() throws Exception {
    String malformed = "a:1:{s:3:\"url\";s:99:\"https://staging.skerrow.example/a\";}";
    on("staging", "INSERT INTO settings VALUES (3, 'broken', '" + malformed + "')");
    assertThat(weftex("draft").out())
        .contains("left as it is: settings 3, value is malformed at byte 17");
    weftex("review", "--approve");
    weftex("apply");
    assertThat(live("SELECT value FROM settings WHERE name = 'broken'")).containsExactly(malformed);
  }

  @Test
  void aClashInsideASettingIsDecidedAndTheRestOfBothStays() throws Exception {
    on(
        "staging",
        "UPDATE settings SET value = '{\"front\":1,\"colour\":\"red\",\"width\":800}' WHERE id = 2");
    on(
        "live",
        "UPDATE settings SET value = '{\"front\":1,\"colour\":\"teal\",\"width\":900,\"live\":true}' WHERE id = 2");
    assertThat(weftex("draft").status()).isEqualTo(1);
    assertThat(weftex("review", "--open").out())
        .containsIgnoringWhitespaces("at: 'colour'. Everything else in it is merged");
    weftex("review", "--keep", "1");
    weftex("review", "--approve");
    weftex("apply");
    assertThat(live("SELECT value FROM settings WHERE id = 2"))
        .containsExactly("{\"front\":1,\"colour\":\"teal\",\"width\":800,\"live\":true}");
  }

  @Test
  void aSiteHasReplacementsAndSettingsOfItsOwn() throws Exception {
    append(
        "weftex.yaml",
        """
        replace:
          - {staging: cdn-test.example/box, live: cdn.example/box}
          - {staging: blue, live: green, off: true}
        hosts-alone: true
        stays:
          settings: {name: ["mail_*"]}
        """);
    on(
        "staging",
        "UPDATE pages SET body = 'https://cdn-test.example/box/1 blue desk@staging.skerrow.example' WHERE id = 1",
        "INSERT INTO settings VALUES (3, 'mail_catcher', 'on')");
    weftex("draft");
    weftex("review", "--approve");
    weftex("apply");
    assertThat(live("SELECT body FROM pages"))
        .containsExactly("https://cdn.example/box/1 blue desk@skerrow.example");
    assertThat(live("SELECT name FROM settings")).containsExactly("home", "theme");
  }

  @Test
  void theOtherWayRoundTheAddressesAreStagings() throws Exception {
    on("live", "UPDATE pages SET body = 'https://skerrow.example/new' WHERE id = 1");
    weftex("draft", "--into", "staging", "-o", "back.jsonl");
    weftex("review", "back.jsonl", "--approve");
    assertThat(weftex("apply", "back.jsonl").status()).isZero();
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("staging.db"));
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SELECT body FROM pages")) {
      assertThat(rows.next()).isTrue();
      assertThat(rows.getString(1)).isEqualTo("https://staging.skerrow.example/new");
    }
  }
}
