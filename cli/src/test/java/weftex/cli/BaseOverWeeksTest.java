package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** What a pair knows of its copies: the base, where it is from, and whose it is. */
class BaseOverWeeksTest {
  @TempDir Path folder;
  private DemoSite site;

  @BeforeEach
  void makeTheSite() throws Exception {
    site = DemoPair.marked(folder);
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  @Test
  void copiesThatDifferAreNamedAndTheBaseStays() throws Exception {
    site.week();
    String compared = weftex("compare").out();
    Program.Ran refused = weftex("mark");
    assertThat(refused.status()).isEqualTo(4);
    assertThat(refused.out())
        .contains("The copies are not alike", "pages", "page 'Summer festival 2026'")
        .contains("The base that is there stays.")
        .doesNotContain("comments");
    // Of a base of live, what visitors wrote there would seem to be removed on staging.
    Program.Ran ofLive = weftex("mark", "--from", "live");
    assertThat(ofLive.status()).isEqualTo(4);
    assertThat(ofLive.out()).contains("comments");
    assertThat(weftex("compare").out()).isEqualTo(compared);
    assertThat(folder.resolve(".weftex/base.candidate")).doesNotExist();
  }

  @Test
  void aStagingCopyThatWasMadeAnewIsRefusedUntilItIsMarked() throws Exception {
    site.week();
    Files.copy(
        folder.resolve("live.db"),
        folder.resolve("staging.db"),
        StandardCopyOption.REPLACE_EXISTING);
    Program.Ran checked = weftex("check");
    assertThat(checked.status()).isEqualTo(4);
    assertThat(checked.out())
        .containsIgnoringWhitespaces(
            "Problem: staging was recreated from live since the base was recorded, so it has live's"
                + " IDs. Record a new base with 'weftex mark'.");
    Program.Ran compared = weftex("compare");
    assertThat(compared.status()).isEqualTo(4);
    assertThat(compared.err()).contains("staging was recreated from live", "'weftex mark'");
    assertThat(weftex("mark").status()).isZero();
    assertThat(weftex("check").out()).contains("No problems found.");
    assertThat(weftex("compare").out()).contains("No table differs.");
  }

  @Test
  void whoeverKnowsBetterReplacesTheBaseAndCanReturn() throws Exception {
    site.week();
    String compared = weftex("compare").out();
    assertThat(weftex("mark", "--although-different").out())
        .contains("Recorded staging as the base", "The base before is kept");
    assertThat(weftex("compare").out()).isNotEqualTo(compared);
    assertThat(weftex("history").out()).contains("Base: staging of", "Earlier base: staging of");
    assertThat(weftex("mark", "--back").status()).isZero();
    assertThat(weftex("compare").out()).isEqualTo(compared);
    Program.Ran none = weftex("mark", "--back");
    assertThat(none.status()).isEqualTo(2);
    assertThat(none.err()).contains("No base was recorded before the present one");
    assertThat(weftex("mark", "--back", "--from", "live").status()).isEqualTo(2);
  }

  @Tag("full")
  @Test
  void addressesThatAreMissingWrongOrExchangedAreRefused() throws Exception {
    site.week();
    String file = Files.readString(folder.resolve("weftex.yaml"));
    String staging = "address: \"https://staging.skerrow.example\"";
    String live = "address: \"https://skerrow.example\"";
    configure(file.replace(live, "# none"));
    refused(
        "does not say by what address live knows itself",
        "Add 'address: \"https://skerrow.example\"'");
    configure(file.replace("https://staging.", "https://test."));
    refused(
        "The address of staging is wrong: staging knows itself as https://staging.skerrow.example,"
            + " and weftex.yaml says https://test.skerrow.example",
        "copies.staging.address");
    configure(file.replace(staging, "x").replace(live, staging).replace("    x", "    " + live));
    refused(
        "has the two copies exchanged", "staging knows itself as https://staging.skerrow.example");
    configure(
        file.replace("staging.db", "x")
            .replace("live.db", "staging.db")
            .replace("sqlite: x", "sqlite: live.db"));
    refused("has the two copies exchanged", "live knows itself as https://staging.skerrow.example");
    configure(file.replace(live, "address: \"http://skerrow.example\""));
    refused(
        "live knows itself as https://skerrow.example", "weftex.yaml says http://skerrow.example");
    configure(file);
    assertThat(weftex("check").out()).doesNotContain("Problem:");
  }

  private void configure(String text) throws Exception {
    Files.writeString(folder.resolve("weftex.yaml"), text);
  }

  private void refused(String what, String next) {
    Program.Ran compared = weftex("compare");
    assertThat(compared.status()).as(compared.out()).isEqualTo(4);
    assertThat(compared.err()).contains(what, next, "Nothing was changed");
    Program.Ran checked = weftex("check");
    assertThat(checked.status()).isEqualTo(4);
    assertThat(checked.out().replaceAll("\\s+", " ")).contains("Problem:", what, next);
  }

  @Test
  void anotherConfigurationInTheFolderIsAnotherPair() throws Exception {
    Files.copy(folder.resolve("weftex.yaml"), folder.resolve("second.yaml"));
    assertThat(weftex("compare", "--config", "second.yaml").err())
        .contains("No base has been recorded for this pair", "rename it to .weftex-second");
    assertThat(weftex("check", "--twins", "--config", "second.yaml").err())
        .contains("No base has been recorded for this pair");
    assertThat(weftex("mark", "--config", "second.yaml").status()).isZero();
    assertThat(folder.resolve(".weftex-second/base/manifest.json")).exists();
    assertThat(folder.resolve(".weftex/bases")).doesNotExist();
  }

  @Test
  void aStagingCopyThatWasMadeAnewWithoutLedgerIsNoticedByWhatItHas() throws Exception {
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    String add =
        "INSERT INTO skf_pages (id, slug, title, body, status, parent_id, author_id) VALUES (70, '%s',"
            + " '%s', 'Text of %s', 'published', 3, 1)";
    staging.run(String.format(add, "ice", "Ice", "staging"));
    live.run(String.format(add, "snow", "Snow", "live"));
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    // What staging has of its own is no reason to take it for another copy.
    staging.run("UPDATE skf_pages SET title = 'Ice again' WHERE id = 70");
    assertThat(weftex("check").status()).isZero();
    Files.copy(
        folder.resolve("live.db"),
        folder.resolve("staging.db"),
        StandardCopyOption.REPLACE_EXISTING);
    staging.run("DROP TABLE skf_weftex_ledger");
    for (String command : List.of("compare", "draft")) {
      Program.Ran refused = weftex(command);
      assertThat(refused.status()).as(command).isEqualTo(4);
      assertThat(refused.err())
          .containsIgnoringWhitespaces(
              "staging seems to have been recreated from live since the base was recorded")
          .contains("'weftex mark'");
    }
    Program.Ran checked = weftex("check");
    assertThat(checked.status()).isEqualTo(4);
    assertThat(checked.out()).containsIgnoringWhitespaces("seems to have been recreated from live");
    Program.Ran marked = weftex("mark");
    assertThat(marked.status()).as(marked.err()).isZero();
    assertThat(weftex("compare").out()).contains("No table differs.");
  }

  @Test
  void aBaseThatNobodyRecordedIsWorkedOutAndRemovesNothingByItself() throws Exception {
    site.week();
    Files.move(folder.resolve(".weftex/base"), folder.resolve("recorded"));
    Program.Ran shown = weftex("mark", "--worked-out");
    assertThat(shown.status()).isEqualTo(1);
    assertThat(shown.out().replaceAll("\\s+", " "))
        .contains("A base can be worked out", "Nothing was recorded yet", "pages, ")
        .contains("it was there before the copies parted, so staging removed it");
    assertThat(weftex("compare").err()).contains("No base has been recorded");
    assertThat(weftex("mark", "--parted", "2026-11-01").status()).isEqualTo(2);
    assertThat(weftex("mark", "--worked-out", "--parted", "last week").err())
        .contains("'last week' is no time");
    assertThat(weftex("mark", "--worked-out", "--yes").out().replaceAll("\\s+", " "))
        .contains("Recorded a base that is worked out", "Nothing is removed on this base without");

    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    String pages = "SELECT count(*) FROM skf_pages";
    List<String> before = live.ask(pages);
    weftex("draft");
    assertThat(weftex("review", "--open").out())
        .contains("no-base: It was there before the copies parted, so staging removed it.")
        .contains("no-base: Nothing says which copy changed it.");
    weftex("review", "--skip", "conflicts");
    assertThat(weftex("review", "--approve").status()).isZero();
    assertThat(weftex("apply").status()).isZero();
    assertThat(Integer.parseInt(live.ask(pages).get(0)))
        .isGreaterThanOrEqualTo(Integer.parseInt(before.get(0)));
    assertThat(weftex("undo").status()).isZero();

    Path evidence = folder.resolve(".weftex/base/evidence.jsonl");
    Files.writeString(evidence, Files.readString(evidence).replace("question", "evidence"));
    Program.Ran altered = weftex("compare");
    assertThat(altered.err()).contains("The base is damaged", "it is not as it was written");
  }

  @Test
  void aMergeFromAnotherFolderIsNamed() throws Exception {
    site.week();
    weftex("draft", "--item", "harbour", "-o", "set.jsonl");
    weftex("review", "set.jsonl", "--approve");
    assertThat(weftex("apply", "set.jsonl").status()).isZero();
    assertThat(weftex("compare").err()).isEmpty();
    Files.move(folder.resolve(".weftex/receipts"), folder.resolve("elsewhere"));
    assertThat(weftex("compare").err())
        .contains("live was merged on", "from another folder", ".weftex/receipts");
    Files.move(folder.resolve("elsewhere"), folder.resolve(".weftex/receipts"));
    assertThat(weftex("undo").status()).isZero();
    assertThat(weftex("compare").err()).isEmpty();
  }

  @Test
  void whatAnOlderMergeMadeTwiceIsNamedAndMadeOneAgain() throws Exception {
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    String entry = "INSERT INTO skf_menu_entries VALUES (%d, 'Sailings in ice and snow', 2, 9)";
    staging.run(String.format(entry, 70));
    live.run(String.format(entry, 81));
    live.run(String.format(entry, 82));
    String command = "weftex draft --same menu_entries:70=81";
    String scanned = weftex("scan", "live", "--json").out();
    assertThat(scanned).contains("doubled", "says the same as menu_entries 81", command);
    // Word by word the same, so without a word it would come a third time.
    assertThat(weftex("compare").out()).contains("menu entry 'Sailings in ice and snow'");
    assertThat(weftex("draft", "--same", "menu_entries:70=99").err())
        .contains("there is no menu_entries:99 to be the same as menu_entries:70");
    Program.Ran drafted = weftex("draft", "--same", "menu_entries:70=81");
    assertThat(drafted.status()).as(drafted.err()).isZero();
    assertThat(weftex("review", "--approve").status()).isZero();
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err()).isZero();
    assertThat(weftex("check", "--twins").out()).contains("menu_entries");
    assertThat(weftex("scan", "live", "--json").out())
        .contains("staging's 70 is menu_entries:81, so menu_entries:82 can go");
    live.run("DELETE FROM skf_menu_entries WHERE id = 82");
    assertThat(weftex("scan", "live", "--json").out()).doesNotContain("doubled");
    assertThat(weftex("compare").status()).isZero();
    staging.run("UPDATE skf_menu_entries SET label = 'Winter sailings' WHERE id = 70");
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(live.ask("SELECT label FROM skf_menu_entries WHERE id > 5 ORDER BY id"))
        .containsExactly("Winter sailings");
    assertThat(weftex("compare", "--into", "staging").status()).isZero();
  }
}
