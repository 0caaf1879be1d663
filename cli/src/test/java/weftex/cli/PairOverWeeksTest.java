package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/**
 * What keeps a pair right over weeks: a sound base, a way to refresh staging, a way to take one
 * thing back.
 */
class PairOverWeeksTest {
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
  void oneThingIsTakenBackAndComesAgain() throws Exception {
    site.week();
    weftex("draft", "--without", "sailings", "-o", "set.jsonl");
    weftex("review", "set.jsonl", "--skip", "conflicts");
    assertThat(weftex("review", "set.jsonl", "--approve").status()).isZero();
    assertThat(weftex("apply", "set.jsonl").status()).isZero();
    Program.Ran none = weftex("undo", "--item", "page:Nothing");
    assertThat(none.status()).isEqualTo(2);
    assertThat(none.err()).contains("Nothing that was chosen was made by set.jsonl");
    assertThat(weftex("check", "--twins").out())
        .contains("pages: 1 row under different IDs, all of them there");
    Program.Ran undone =
        weftex("undo", "--item", "harbour:Brae", "--item", "page:Winter timetable");
    assertThat(undone.status()).as(undone.err()).isZero();
    assertThat(undone.err())
        .contains("Taking back", "page 'Winter timetable'", "harbour 'Brae'", "; the rest stays")
        .contains("Goes along, since it can't stay without: ")
        .contains("menu entry 'Winter timetable'");
    assertThat(weftex("history").out()).contains("undo of a part");
    assertThat(weftex("compare", "--tables", "harbours").out()).contains("harbour 'Brae' · guide");
    assertThat(weftex("undo").out()).contains("Undone on live");
    assertThat(weftex("undo").err()).contains("not undone already");
    Files.delete(folder.resolve("set.jsonl"));
  }

  @Test
  void whatWasUndoneIsHeldBackByNightUntilSomebodyIncludesIt() throws Exception {
    site.week();
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    String made = "SELECT slug FROM skf_pages WHERE title = 'Winter timetable'";
    assertThat(weftex("review", "--if-nothing-open").err()).contains("Say --approve, too");
    assertThat(byNight().review().out()).doesNotContain("held back");
    assertThat(live.ask(made)).hasSize(1);
    assertThat(weftex("undo", "--item", "page:Winter timetable").status()).isZero();
    Ran night = byNight();
    assertThat(night.review().out().replaceAll("\\s+", " "))
        .contains("changes were undone before and are held back", "--decisions");
    assertThat(night.apply().status()).as(night.apply().err()).isZero();
    assertThat(live.ask(made)).isEmpty();

    // What is new goes on its way.
    staging.run("UPDATE skf_pages SET title = 'The ships' WHERE slug = 'ships'");
    staging.run("UPDATE skf_harbours SET guide = 'New.' WHERE name = 'Brae'");
    night = byNight();
    assertThat(night.apply().status()).as(night.apply().err()).isZero();
    assertThat(live.ask("SELECT guide FROM skf_harbours WHERE name = 'Brae'"))
        .containsExactly("New.");
    assertThat(live.ask(made)).isEmpty();

    // And a person is not held back, nor what a person includes.
    weftex("draft");
    weftex("review", "--skip", "conflicts");
    weftex("review", "--include", "page:Winter timetable");
    // What went along with the undo was not asked for.
    assertThat(weftex("review", "--approve", "--if-nothing-open").out())
        .contains("4 changes were undone before and are held back");
    assertThat(weftex("apply").status()).isZero();
    assertThat(live.ask(made)).hasSize(1);

    // Where nothing is left to do, nothing is written, and an undo means the last merge still.
    night = byNight();
    assertThat(night.apply().out()).contains("is to be made on live. Nothing was changed.");
    weftex("draft", "--item", "page:Winter timetable", "--even-if-nothing");
    weftex("review", "--keep", "conflicts", "--approve", "--if-nothing-open");
    assertThat(weftex("apply").out()).contains("is to be made on live. Nothing was changed.");
    weftex("undo");
    assertThat(live.ask(made)).isEmpty();
  }

  private record Ran(Program.Ran review, Program.Ran apply) {}

  /** As a run by night does it, where the rules leave nothing open. */
  private Ran byNight() {
    weftex("draft");
    weftex("review", "--skip", "conflicts");
    return new Ran(weftex("review", "--approve", "--if-nothing-open"), weftex("apply"));
  }

  @Tag("full")
  @Test
  void stagingGetsAllThatLiveHasInOneWordAndKeepsItsOwnWork() throws Exception {
    site.week();
    String own = weftex("compare").out();
    assertThat(weftex("draft", "--everything").status()).isEqualTo(4);
    assertThat(weftex("draft", "--with", "comentz").err()).contains("Did you mean 'comments'?");
    for (String with : new String[] {"comment", "setting:x", "shop_order", "accounts.password"}) {
      assertThat(weftex("compare", "--with", with).err()).as(with).isEmpty();
    }
    Program.Ran drafted = weftex("draft", "--into", "staging", "--everything");
    assertThat(drafted.status()).as(drafted.out()).isZero();
    assertThat(drafted.out().replaceAll("\\s+", " "))
        .contains("Stays as staging has it", "page 'Lost property'", "setting 'tagline'")
        .contains("Live's own rows that come along: account, 1 row; booking, 3 rows");
    assertThat(weftex("review", "--approve").status()).isZero();
    assertThat(weftex("apply").status()).isZero();
    String back = weftex("compare", "--into", "staging", "--everything").out();
    assertThat(back).contains("page 'Lost property'").doesNotContain("booking '", "account '");
    // Nobody decided, so the same questions are there on the way to live.
    String after = weftex("compare").out();
    assertThat(after.substring(after.indexOf("What would change")))
        .isEqualTo(own.substring(own.indexOf("What would change")));
    assertThat(weftex("undo").status()).isZero();
  }

  @Test
  void twoNewPagesOfOneNameStayTwoWhereSomebodySaysSo() throws Exception {
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    String add =
        "INSERT INTO skf_pages (id, slug, title, body, status, parent_id, author_id) VALUES ";
    staging.run(
        add
            + "(70, 'ice', 'Ice on the slips', 'Salt is out.', 'published', 3, 1),"
            + " (71, 'ice-salt', 'Salt', '', 'published', 70, 1)");
    live.run(
        add
            + "(70, 'ice', 'Ice cream', 'On board.', 'published', 3, 1),"
            + " (71, 'ice-prices', 'Prices', '', 'published', 70, 1)");
    weftex("draft");
    Program.Ran wrong = weftex("review", "--both", "page:Salt");
    assertThat(wrong.status()).isEqualTo(2);
    assertThat(wrong.err()).contains("'page:Salt' matches no change");
    assertThat(weftex("draft", "--both", "pages:4").err())
        .contains("pages:4, which is no row that staging added");
    Program.Ran both = weftex("review", "--both", "page:Ice*");
    assertThat(both.status()).as(both.err()).isZero();
    assertThat(both.out()).contains("2 to add, 0 to update");
    assertThat(weftex("review", "--approve").status()).isZero();
    assertThat(weftex("apply").status()).isZero();
    String pages = "SELECT slug || ': ' || title FROM skf_pages WHERE slug LIKE 'ice%' ORDER BY 1";
    String salt = "SELECT slug FROM skf_pages WHERE id = (SELECT parent_id FROM skf_pages WHERE ";
    assertThat(live.ask(pages))
        .containsExactly(
            "ice-2: Ice on the slips", "ice-prices: Prices", "ice-salt: Salt", "ice: Ice cream");
    assertThat(live.ask(salt + "slug = 'ice-salt')")).containsExactly("ice-2");

    // Later nothing is left, an edit finds its own page, and live's page is one of its own.
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    staging.run("UPDATE skf_pages SET title = 'Ice in winter' WHERE id = 70");
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(live.ask(pages)).contains("ice-2: Ice in winter", "ice: Ice cream");
    weftex("draft", "--into", "staging");
    assertThat(weftex("review", "--list").out()).contains("page 'Ice cream' · added");
  }

  @Test
  void aRuleKeepsBothAndLaterWeeksAskNothingOfThem() throws Exception {
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    String guide = "UPDATE skf_harbours SET guide = guide || '<p>%s</p>' WHERE id = 1";
    String page =
        "INSERT INTO skf_pages (id, slug, title, body, status, parent_id, author_id) VALUES"
            + " (70, 'ice', 'Ice', 'Ice of %s', 'published', 3, 1)";
    staging.run(String.format(guide, "Dogs on a lead."));
    live.run(String.format(guide, "No bicycles."));
    staging.run(String.format(page, "staging"));
    live.run(String.format(page, "live"));
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        rules:
          - {item: harbour, column: guide, keep: both, why: the harbours write their guides}
          - {item: page, keep: both}
        """,
        StandardOpenOption.APPEND);
    Program.Ran drafted = weftex("draft");
    assertThat(drafted.status()).as(drafted.out() + drafted.err()).isZero();
    assertThat(weftex("review", "--decisions").out())
        .contains("both: 2 in guide, passage 1", "the harbours write their guides");
    assertThat(weftex("review", "--approve").status()).isZero();
    assertThat(weftex("apply").status()).isZero();
    String guides = "SELECT guide FROM skf_harbours WHERE id = 1";
    assertThat(live.ask(guides).get(0)).endsWith("<p>Dogs on a lead.</p><p>No bicycles.</p>");
    String pages = "SELECT slug || ': ' || body FROM skf_pages WHERE slug LIKE 'ice%' ORDER BY 1";
    assertThat(live.ask(pages)).containsExactly("ice-2: Ice of staging", "ice: Ice of live");
    assertThat(weftex("compare").status()).isZero();

    // Live's words are news for staging, and staging's next edit finds its own.
    staging.run(
        "UPDATE skf_harbours SET guide = REPLACE(guide, 'on a lead', 'in a basket') WHERE id = 1");
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(live.ask(guides).get(0)).endsWith("<p>Dogs in a basket.</p><p>No bicycles.</p>");
    weftex("draft", "--into", "staging");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(staging.ask(guides)).isEqualTo(live.ask(guides));
    assertThat(weftex("compare").status()).isZero();
  }

  @Test
  void aThingThatOneCopyKeepsAndTheOtherDoesNotWantIsAskedAboutOnceEachWay() throws Exception {
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    for (SqliteFile copy : List.of(staging, live)) {
      copy.run(
          "CREATE TABLE skf_remarks (id INTEGER PRIMARY KEY, route_id INT NOT NULL REFERENCES skf_routes"
              + " (id), text TEXT)");
    }
    Files.writeString(
        folder.resolve("remarks.model.yaml"),
        "model: remarks\nextends: "
            + DemoSite.EXTENDED_MODEL
            + "\ntables:\n  remarks: {part-of: route_id, word: remark}\n");
    Path yaml = folder.resolve("weftex.yaml");
    Files.writeString(
        yaml, Files.readString(yaml).replace(DemoSite.EXTENDED_MODEL, "remarks.model.yaml"));
    assertThat(weftex("mark").status()).isZero();
    live.run("INSERT INTO skf_remarks VALUES (900, 3, 'Goats sail free.')");
    live.run("UPDATE skf_routes SET minutes = 61 WHERE id = 3");
    staging.run("DELETE FROM skf_fares WHERE route_id = 3");
    staging.run("DELETE FROM skf_sailings WHERE route_id = 3");
    staging.run("DELETE FROM skf_routes WHERE id = 3");
    // Live keeps it, with the remark that the base has never seen.
    weftex("draft");
    weftex("review", "--keep", "conflicts");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(weftex("compare").status()).isZero();
    // Live edits it, and staging does not want it back.
    live.run("UPDATE skf_routes SET minutes = 62 WHERE id = 3");
    assertThat(weftex("draft", "--into", "staging").status()).isEqualTo(1);
    weftex("review", "--keep", "conflicts");
    weftex("review", "--approve");
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err()).isZero();
    Program.Ran again = weftex("compare", "--into", "staging");
    assertThat(again.status()).as(again.out()).isZero();
    assertThat(weftex("compare").status()).isZero();
    assertThat(live.ask("SELECT count(*) FROM skf_remarks WHERE id = 900")).containsExactly("1");
    // Until live edits it again.
    live.run("UPDATE skf_remarks SET text = 'Goats pay half.' WHERE id = 900");
    assertThat(weftex("compare", "--into", "staging").out()).contains("edited-gone");
  }

  @Test
  void aDetailThatBothRemovedAndOneMadeAnewIsAskedAboutOnlyInTheSameWeek() throws Exception {
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    for (SqliteFile copy : List.of(staging, live)) {
      copy.run(
          "CREATE TABLE skf_remarks (id INTEGER PRIMARY KEY, route_id INT NOT NULL REFERENCES skf_routes"
              + " (id), name TEXT, text TEXT)");
    }
    Files.writeString(
        folder.resolve("remarks.model.yaml"),
        "model: remarks\nextends: "
            + DemoSite.EXTENDED_MODEL
            + "\ntables:\n  remarks: {part-of: route_id, identity: [route_id, name]}\n");
    Path yaml = folder.resolve("weftex.yaml");
    Files.writeString(
        yaml, Files.readString(yaml).replace(DemoSite.EXTENDED_MODEL, "remarks.model.yaml"));
    assertThat(weftex("mark").status()).isZero();
    staging.run("INSERT INTO skf_remarks VALUES (1, 3, 'goats', 'Free'), (2, 3, 'bikes', 'Free')");
    weftex("draft");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    // Both remove both; staging makes one of them anew at once.
    for (SqliteFile copy : List.of(staging, live)) {
      copy.run("DELETE FROM skf_remarks");
    }
    staging.run("INSERT INTO skf_remarks VALUES (7, 3, 'goats', 'Half')");
    assertThat(weftex("compare").out()).contains("edited-gone");
    weftex("draft");
    weftex("review", "--keep", "conflicts");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(weftex("compare").status()).isZero();
    assertThat(live.ask("SELECT count(*) FROM skf_remarks")).containsExactly("0");
    // The other one comes a week after both agreed that it goes.
    staging.run("INSERT INTO skf_remarks VALUES (8, 3, 'bikes', 'Half')");
    Program.Ran drafted = weftex("draft");
    assertThat(drafted.out()).contains("1 to add").doesNotContain("decision");
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    assertThat(live.ask("SELECT name || ' ' || text FROM skf_remarks"))
        .containsExactly("bikes Half");
    // What was declined is asked about again once it is edited.
    staging.run("UPDATE skf_remarks SET text = 'Full' WHERE id = 7");
    assertThat(weftex("compare").out()).contains("edited-gone");
  }

  @Test
  void madeUpValuesOfStagingStayThereAndLivesStayOnLive() throws Exception {
    SqliteFile staging = new SqliteFile(folder.resolve("staging.db"));
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    Path yaml = folder.resolve("weftex.yaml");
    String before = Files.readString(yaml);
    staging.run(
        "UPDATE skf_accounts SET full_name = 'Person ' || id, email = 'p' || id || '@masked.example'");
    Files.writeString(yaml, before + "masked: {accounts: [full_name, e_mail]}\n");
    assertThat(weftex("compare").err())
        .contains("'masked' names accounts.e_mail", "Did you mean 'email'?");
    Files.writeString(yaml, before + "masked: {accounts: [full_name, email]}\n");
    Program.Ran marked = weftex("mark");
    assertThat(marked.status()).as(marked.out() + marked.err()).isZero();
    String people =
        "SELECT login || ' ' || full_name || ' ' || email FROM skf_accounts ORDER BY id";
    List<String> onLive = live.ask(people);
    List<String> onStaging = staging.ask(people);
    assertThat(weftex("compare", "--with", "accounts").status()).isZero();
    staging.run("UPDATE skf_accounts SET login = 'odd.s' WHERE login = 'odd'");
    live.run("UPDATE skf_accounts SET email = 'new@skerrow.example' WHERE login = 'mira'");
    for (String[] draft :
        new String[][] {
          {"draft", "--with", "accounts"}, {"draft", "--into", "staging", "--everything"}
        }) {
      weftex(draft);
      weftex("review", "--approve");
      Program.Ran applied = weftex("apply");
      assertThat(applied.status()).as(applied.err()).isIn(0, 4);
    }
    assertThat(live.ask(people))
        .containsExactlyElementsOf(
            onLive.stream()
                .map(
                    row ->
                        row.startsWith("mira ")
                            ? row.replaceFirst("\\S+$", "new@skerrow.example")
                            : row.replaceFirst("^odd ", "odd.s "))
                .toList());
    assertThat(staging.ask(people))
        .containsExactlyElementsOf(
            onStaging.stream().map(row -> row.replaceFirst("^odd ", "odd.s ")).toList());
  }

  @Test
  void aDraftReplacesNeitherDecisionsNorOtherFiles() throws Exception {
    site.week();
    weftex("draft", "-o", "set.jsonl");
    assertThat(weftex("draft", "-o", "set.jsonl").status()).isEqualTo(1);
    weftex("review", "set.jsonl", "--keep", "conflicts");
    byte[] decided = Files.readAllBytes(folder.resolve("set.jsonl"));
    Program.Ran refused = weftex("draft", "-o", "set.jsonl");
    assertThat(refused.status()).isEqualTo(4);
    assertThat(refused.err()).contains("holds decisions", "--overwrite");
    assertThat(weftex("draft", "-o", "weftex.yaml").err()).contains("no whole change set");
    assertThat(Files.readAllBytes(folder.resolve("set.jsonl"))).isEqualTo(decided);
    Program.Ran again = weftex("draft", "set.jsonl", "--again", "-o", "set.jsonl");
    assertThat(again.out()).as(again.err()).contains("of the earlier draft still hold");
    assertThat(weftex("draft", "-o", "set.jsonl", "--overwrite").status()).isEqualTo(1);
  }
}
