package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Several sites under one roof that one configuration file describes. */
class RoofTest {
  @TempDir Path folder;
  private SqliteFile staging;
  private SqliteFile live;

  @BeforeEach
  void threeSites() throws Exception {
    staging =
        roof("staging", "https://staging.skerrow.example", "https://staging.skerrow.example/cargo");
    // On live the third has a host of its own.
    live = roof("live", "https://skerrow.example", "https://cargo.example");
    configure("all");
    Program.Ran marked = weftex("mark");
    assertThat(marked.status()).as(marked.out() + marked.err()).isZero();
    assertThat(marked.out())
        .contains(
            "── site 1, https://skerrow.example ──",
            "── site 2, https://skerrow.example/boats ──",
            "── site 3, https://cargo.example ──");
  }

  private void configure(String sites) throws Exception {
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        sites: %s
        model: wordpress
        copies:
          staging: {sqlite: staging.db, prefix: wp_, address: "https://staging.skerrow.example"}
          live: {sqlite: live.db, prefix: wp_, address: "https://skerrow.example"}
        """
            .formatted(sites));
  }

  private SqliteFile roof(String copy, String first, String third) throws Exception {
    SqliteFile file = new SqliteFile(folder.resolve(copy + ".db"));
    file.run(
        "CREATE TABLE wp_users (ID INTEGER PRIMARY KEY, user_login TEXT UNIQUE, user_email TEXT)");
    file.run("INSERT INTO wp_users VALUES (1, 'mira', 'mira@skerrow.example')");
    site(file, "", first);
    site(file, "2_", first + "/boats");
    site(file, "3_", third);
    return file;
  }

  private static void site(SqliteFile file, String number, String address) throws Exception {
    String posts = "wp_" + number + "posts";
    file.run(
        "CREATE TABLE "
            + posts
            + " (ID INTEGER PRIMARY KEY, post_author INT NOT NULL DEFAULT 0, post_title TEXT,"
            + " post_content TEXT, post_name TEXT, post_status TEXT NOT NULL DEFAULT 'publish',"
            + " post_type TEXT NOT NULL DEFAULT 'page', post_parent INT NOT NULL DEFAULT 0)");
    file.run(
        "CREATE TABLE wp_"
            + number
            + "postmeta (meta_id INTEGER PRIMARY KEY, post_id INT, meta_key TEXT, meta_value TEXT)");
    file.run(
        "CREATE TABLE wp_"
            + number
            + "options (option_id INTEGER PRIMARY KEY, option_name TEXT UNIQUE, option_value TEXT,"
            + " autoload TEXT)");
    file.run(
        "INSERT INTO wp_"
            + number
            + "options VALUES (1, 'siteurl', '"
            + address
            + "', 'yes'), (2, 'home', '"
            + address
            + "', 'yes')");
    file.run(
        "INSERT INTO "
            + posts
            + " (ID, post_title, post_content, post_name) VALUES (1, 'Home', 'Welcome', 'home')");
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private void write(String number, String text) throws Exception {
    staging.run("UPDATE wp_" + number + "posts SET post_content = '" + text + "' WHERE ID = 1");
  }

  private String onLive(String number) throws Exception {
    return live.ask("SELECT post_content FROM wp_" + number + "posts WHERE ID = 1").get(0);
  }

  @Test
  void eachSiteHasAChangeSetOfItsOwnAndOnesWithoutNewsAreNoFault() throws Exception {
    write("", "One");
    write("2_", "Two");
    Program.Ran drafted = weftex("draft");
    assertThat(drafted.status()).as(drafted.err()).isZero();
    assertThat(drafted.out())
        .contains(".weftex/change-sets/0001-", ".weftex/sites/2/change-sets/0001-");
    assertThat(drafted.err()).contains("weftex: site 3: Nothing that was chosen differs");
    assertThat(weftex("review", "--approve").status()).isZero();
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err()).isZero();
    assertThat(onLive("")).isEqualTo("One");
    assertThat(onLive("2_")).isEqualTo("Two");
    assertThat(weftex("undo", "--at", "/boats").status()).isZero();
    assertThat(onLive("")).isEqualTo("One");
    assertThat(onLive("2_")).isEqualTo("Welcome");
    assertThat(weftex("history", "--at", "2").out()).contains("undo").doesNotContain("──");
    // Nothing is left to do for any.
    weftex("undo", "--at", "1");
    staging.run("UPDATE wp_posts SET post_content = 'Welcome'");
    staging.run("UPDATE wp_2_posts SET post_content = 'Welcome'");
    assertThat(weftex("draft").status()).isEqualTo(2);
  }

  @Test
  void linksFromOneSiteToAnotherAreMapped() throws Exception {
    write(
        "2_",
        "https://staging.skerrow.example/boats/a https://staging.skerrow.example/cargo/b"
            + " https:\\/\\/staging.skerrow.example\\/c");
    weftex("draft", "--at", "2");
    weftex("review", "--approve", "--at", "2");
    assertThat(weftex("apply", "--at", "2").status()).isZero();
    assertThat(onLive("2_"))
        .isEqualTo(
            "https://skerrow.example/boats/a https://cargo.example/b"
                + " https:\\/\\/skerrow.example\\/c");
    assertThat(weftex("compare", "--into", "staging").status()).isZero();
  }

  @Test
  void whatIsOfOneSiteAsksWhich() throws Exception {
    for (String[] arguments :
        new String[][] {
          {"undo"}, {"report"}, {"review", "--take", "1"}, {"apply", "-o", "x.sql"}, {"restore"}
        }) {
      Program.Ran refused = weftex(arguments);
      assertThat(refused.status()).as(String.join(" ", arguments)).isEqualTo(2);
      assertThat(refused.err())
          .contains("This is done for one site at a time. Nothing was changed.")
          .contains("--at", "site 2, https://skerrow.example/boats");
    }
    assertThat(weftex("compare", "--at", "9").err())
        .contains("No site is called '9'. Nothing was changed.");
  }

  @Test
  void someOfTheSitesCanBeNamed() throws Exception {
    configure("[2, 3]");
    assertThat(weftex("compare").out()).contains("site 2,", "site 3,").doesNotContain("site 1,");
    configure("[2, 7]");
    assertThat(weftex("compare").err())
        .contains("'sites' names site 7, which the copies do not both have. Nothing was changed.")
        .contains("Both have 1, 2, 3.");
    configure("some");
    assertThat(weftex("compare").err()).contains("'sites' is 'all' or a list of numbers");
    configure("[]");
    assertThat(weftex("compare", "--at", "2").err()).contains("does not say 'sites'");
    assertThat(weftex("compare").out()).doesNotContain("──");
  }

  @Test
  void oneResultHoldsThatOfEachSite() throws Exception {
    write("2_", "Two");
    Program.Ran compared = weftex("compare", "--json");
    JsonNode sites = new ObjectMapper().readTree(compared.out()).get("sites");
    assertThat(sites).hasSize(3);
    assertThat(sites.get(1).get("site").asInt()).isEqualTo(2);
    assertThat(sites.get(1).get("addresses").get("live").asText())
        .isEqualTo("https://skerrow.example/boats");
    assertThat(sites.get(1).get("result").get("items")).hasSize(1);
    assertThat(sites.get(2).get("result").get("items")).isEmpty();
  }
}
