package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.changeset.DecisionLine;
import weftex.core.compare.Tally;
import weftex.core.model.SiteModel;
import weftex.core.select.Selection;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.compare.ComparisonRun;
import weftex.store.testing.Pair;

/** A pair that was merged before: its rows are known again, whatever number they have. */
class SecondMergeTest {
  private static final String MODEL =
      """
      model: test
      markup:
        - {css-class: page-, to: pages}
      tables:
        pages:
          number: id
          identity: [slug]
          references: {parent: {to: pages, unset: "0"}}
          inside: {body: [{markup: true}]}
        entries:
          number: id
          references: {page_id: {to: pages}}
        details:
          number: id
          part-of: page_id
          identity: [page_id, name]
          references: {page_id: {to: pages}}
        links:
          references: {page_id: {to: pages}, tag_id: {to: tags}}
        tags:
          number: id
          identity: [name]
          references: {}
      """;

  private static final String WELCOME =
      "<p>One ferry goes.</p> <p>Two are due.</p> <p>Three wait here.</p> <p>Four are old.</p>";

  @TempDir Path folder;

  /** Two weeks' start: staging's additions are on live, all of them under other numbers. */
  private Pair merged(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    for (String copy : List.of("staging", "live")) {
      String number =
          kind == Pair.Kind.MARIADB
              ? "BIGINT AUTO_INCREMENT PRIMARY KEY"
              : "INTEGER PRIMARY KEY AUTOINCREMENT";
      pair.on(
          copy,
          "CREATE TABLE pages (id "
              + number
              + ", slug VARCHAR(30), title VARCHAR(50), body TEXT, parent BIGINT NOT NULL)",
          "CREATE TABLE entries (id " + number + ", label VARCHAR(30), page_id BIGINT NOT NULL)",
          "CREATE TABLE details (id "
              + number
              + ", page_id BIGINT NOT NULL, name VARCHAR(20), value VARCHAR(60))",
          "CREATE TABLE tags (id " + number + ", name VARCHAR(20))",
          "CREATE TABLE links (page_id BIGINT NOT NULL, tag_id BIGINT NOT NULL, place INT NOT NULL,"
              + " PRIMARY KEY (page_id, tag_id))",
          "INSERT INTO pages VALUES (1, 'home', 'Home', '"
              + WELCOME
              + "', 0), (2, 'fares', 'Fares', 'Adults 4', 0),"
              + " (3, 'old', 'Old', '', 0)",
          "INSERT INTO entries VALUES (1, 'Start', 1)",
          "INSERT INTO details VALUES (1, 1, 'wide', 'yes')",
          "INSERT INTO tags VALUES (1, 'ferry')",
          "INSERT INTO links VALUES (1, 1, 0)");
    }
    pair.mark();
    pair.on(
        "live",
        "INSERT INTO pages VALUES (4, 'storm', 'Storm', '', 0), (5, 'gale', 'Gale', '', 0)",
        "INSERT INTO entries VALUES (2, 'Storm', 4), (3, 'Gale', 5)",
        "INSERT INTO details VALUES (2, 4, 'wide', 'no')",
        "INSERT INTO tags VALUES (2, 'weather')",
        "INSERT INTO links VALUES (4, 2, 0)");
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (4, 'winter', 'Winter', '<p class=\"page-5\">', 0), (5, 'snow', 'Snow', '', 4)",
        "INSERT INTO entries VALUES (2, 'Winter', 4), (3, 'Snow', 5)",
        "INSERT INTO details VALUES (2, 4, 'wide', 'maybe'), (3, 5, 'wide', 'never')",
        "INSERT INTO tags VALUES (2, 'season')",
        "INSERT INTO links VALUES (4, 2, 1), (1, 2, 2)",
        "UPDATE pages SET title = 'Prices' WHERE id = 2",
        "DELETE FROM pages WHERE id = 3");
    pair.apply(pair.approvedDraft());
    assertThat(lines(pair)).as("right after the merge").isEmpty();
    assertThat(counts(pair))
        .as("the source is as it was merged; live has its own")
        .containsExactly(
            "details 0 0 0, 1 0 0",
            "entries 0 0 0, 2 0 0",
            "links 0 0 0, 1 0 0",
            "pages 0 0 0, 2 0 0",
            "tags 0 0 0, 1 0 0");
    return pair;
  }

  /** What each side added, updated and removed, by table. */
  private static List<String> counts(Pair pair) throws Exception {
    try (ComparisonRun run = pair.compare()) {
      run.planner().choose(Selection.CONTENT);
      List<String> counts = new ArrayList<>();
      for (int i = 0; i < run.comparison().tables().size(); i++) {
        Tally tally = run.comparison().tally(i);
        counts.add(
            "%s %d %d %d, %d %d %d"
                .formatted(
                    run.comparison().tables().get(i).table().name(),
                    tally.sourceAdded(),
                    tally.sourceUpdated(),
                    tally.sourceRemoved(),
                    tally.targetAdded(),
                    tally.targetUpdated(),
                    tally.targetRemoved()));
      }
      return counts.stream().sorted().toList();
    }
  }

  private static List<String> lines(Pair pair) throws Exception {
    return pair.changes().stream().map(SecondMergeTest::line).toList();
  }

  private static String line(RowChange change) {
    return change.action().label()
        + " "
        + change.table()
        + " "
        + change.keyText()
        + " "
        + (change.after().isEmpty() || change.after().size() > 3 ? "" : change.after().keySet())
        + change.conflicts().stream().map(Conflict::kind).map(kind -> " " + kind.label()).toList();
  }

  private static String number(Pair pair, String table, String column, String value) {
    return pair.ask("live", "SELECT id FROM %s WHERE %s = '%s'".formatted(table, column, value))
        .get(0);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void editsOfMergedRowsReachLiveUnderItsNumbers(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    String winter = number(pair, "pages", "slug", "winter");
    String snow = number(pair, "pages", "slug", "snow");
    String entry = number(pair, "entries", "label", "Winter");
    pair.on(
        "staging",
        "UPDATE pages SET slug = 'frost', title = 'Frost' WHERE id = 4",
        "UPDATE pages SET parent = 1 WHERE id = 5",
        "UPDATE entries SET label = 'Frosty' WHERE id = 2",
        "UPDATE details SET value = 'always' WHERE id = 3",
        "UPDATE links SET place = 9 WHERE page_id = 4",
        "UPDATE pages SET title = 'Fees' WHERE id = 2",
        "INSERT INTO details VALUES (4, 4, 'dark', 'yes')",
        "INSERT INTO pages VALUES (6, 'ice', 'Ice', '<p class=\"page-4\">', 4)");
    assertThat(pair.changes()).allSatisfy(change -> assertThat(change.conflicts()).isEmpty());
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT slug, title, parent FROM pages ORDER BY slug"))
        .containsExactly(
            "fares\tFees\t0",
            "frost\tFrost\t0",
            "gale\tGale\t0",
            "home\tHome\t0",
            "ice\tIce\t" + winter,
            "snow\tSnow\t1",
            "storm\tStorm\t0");
    assertThat(number(pair, "pages", "slug", "frost")).isEqualTo(winter);
    assertThat(pair.ask("live", "SELECT body FROM pages WHERE slug = 'ice'"))
        .containsExactly("<p class=\"page-" + winter + "\">");
    assertThat(pair.ask("live", "SELECT label, page_id FROM entries ORDER BY id"))
        .containsExactlyInAnyOrder(
            "Start\t1", "Storm\t4", "Gale\t5", "Frosty\t" + winter, "Snow\t" + snow);
    assertThat(number(pair, "entries", "label", "Frosty")).isEqualTo(entry);
    assertThat(
            pair.ask(
                "live",
                "SELECT name, value FROM details WHERE page_id = " + winter + " ORDER BY name"))
        .containsExactly("dark\tyes", "wide\tmaybe");
    assertThat(pair.ask("live", "SELECT value FROM details WHERE page_id = " + snow))
        .containsExactly("always");
    assertThat(pair.ask("live", "SELECT place FROM links WHERE page_id = " + winter))
        .containsExactly("9");
    assertThat(lines(pair)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatLiveEditsAfterTheMergeIsItsOwn(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    String winter = number(pair, "pages", "slug", "winter");
    pair.on(
        "live",
        "UPDATE pages SET title = 'Winter 2027', slug = 'winter-27' WHERE id = " + winter,
        "UPDATE pages SET title = 'Prices 2027' WHERE id = 2",
        "UPDATE details SET value = 'surely' WHERE page_id = " + winter,
        "UPDATE entries SET label = 'Cold' WHERE page_id = " + winter);
    assertThat(lines(pair)).isEmpty();
    pair.on(
        "staging",
        "UPDATE pages SET body = 'Snow!' WHERE id = 4",
        "UPDATE pages SET body = 'Adults 5' WHERE id = 2",
        "UPDATE details SET value = 'no' WHERE id = 2");
    assertThat(lines(pair))
        .containsExactlyInAnyOrder(
            "update pages 2 [body][]",
            "update pages " + winter + " [body][]",
            "update details " + number(pair, "details", "value", "surely") + " [ both-edited]");
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void removalsOfMergedRowsArriveAndLiveSOwnAreKept(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    String snow = number(pair, "pages", "slug", "snow");
    String winter = number(pair, "pages", "slug", "winter");
    pair.on("staging", "DELETE FROM entries WHERE id = 3", "DELETE FROM links WHERE page_id = 4");
    pair.on(
        "live",
        "DELETE FROM pages WHERE id = " + snow,
        "DELETE FROM details WHERE page_id = " + snow,
        "DELETE FROM links WHERE page_id = 1 AND tag_id <> 1");
    assertThat(lines(pair))
        .as("what live removed does not come back")
        .contains("remove entries " + number(pair, "entries", "label", "Snow") + " []")
        .noneMatch(line -> line.startsWith("add"));
    assertThat(counts(pair))
        .containsExactly(
            "details 0 0 0, 1 0 1",
            "entries 0 0 1, 2 0 0",
            "links 0 0 1, 1 0 1",
            "pages 0 0 0, 2 0 1",
            "tags 0 0 0, 1 0 0");
    pair.on("staging", "UPDATE pages SET title = 'Snowy' WHERE id = 5");
    assertThat(lines(pair)).contains("add pages " + snow + " [ edited-gone]");
    pair.apply(pair.approvedDraft());
    assertThat(number(pair, "pages", "slug", "snow")).isEqualTo(snow);
    assertThat(pair.ask("live", "SELECT title FROM pages WHERE id = 5")).containsExactly("Gale");
    pair.undo(false);
    pair.on("staging", "UPDATE pages SET title = 'Snow' WHERE id = 5");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT label FROM entries ORDER BY id"))
        .containsExactly("Start", "Storm", "Gale", "Winter");
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM links WHERE page_id = " + winter))
        .containsExactly("0");
    assertThat(lines(pair)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void anUndoMovesTheBaseBack(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    pair.undo(false);
    List<String> again = lines(pair);
    assertThat(again).hasSize(11).noneMatch(line -> line.contains("edited"));
    pair.on("live", "UPDATE pages SET body = 'Adults 6' WHERE id = 2");
    pair.apply(pair.approvedDraft());
    assertThat(lines(pair)).isEmpty();
    assertThat(pair.ask("live", "SELECT title, body FROM pages WHERE id = 2"))
        .containsExactly("Prices\tAdults 6");
    pair.on("staging", "UPDATE entries SET label = 'Winter!' WHERE id = 2");
    assertThat(lines(pair)).hasSize(1).first().asString().startsWith("update entries");
  }

  private static void decide(Path file, Answer answer, Integer id, String by) throws Exception {
    Decision decision = Decision.of(List.of(id), Optional.empty(), answer, by, "now", "");
    Files.write(file, DecisionLine.of(decision), StandardOpenOption.APPEND);
  }

  /** Drafts, answers every conflict in one way, and applies. */
  private static void apply(Pair pair, Answer answer) throws Exception {
    apply(pair, answer, "test");
  }

  private static void apply(Pair pair, Answer answer, String by) throws Exception {
    Path file = pair.draft();
    for (RowChange change : pair.changes()) {
      if (!change.conflicts().isEmpty()) {
        decide(file, answer, change.id(), by);
      }
    }
    pair.approve(file);
    pair.apply(file);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatWasMergedInsideStaysMerged(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    pair.on(
        "staging", "UPDATE pages SET body = '" + WELCOME.replace("One", "Uno") + "' WHERE id = 1");
    pair.on(
        "live",
        "UPDATE pages SET body = '"
            + WELCOME.replace("Four", "Vier")
            + "', title = 'Hello' WHERE id = 1");
    assertThat(lines(pair)).containsExactly("update pages 1 [body][]");
    pair.apply(pair.approvedDraft());
    String merged = WELCOME.replace("One", "Uno").replace("Four", "Vier");
    assertThat(pair.ask("live", "SELECT body FROM pages WHERE id = 1")).containsExactly(merged);
    assertThat(lines(pair)).isEmpty();
    pair.on("staging", "UPDATE pages SET body = REPLACE(body, 'Two', 'Due') WHERE id = 1");
    pair.on("live", "UPDATE pages SET body = REPLACE(body, 'Three', 'Drei') WHERE id = 1");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT body, title FROM pages WHERE id = 1"))
        .containsExactly(merged.replace("Two", "Due").replace("Three", "Drei") + "\tHello");
    assertThat(lines(pair)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatWasDecidedIsNotAskedAgain(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    String winter = number(pair, "pages", "slug", "winter");
    String snow = number(pair, "pages", "slug", "snow");
    pair.on(
        "staging",
        "UPDATE pages SET title = 'Ours' WHERE id IN (1, 4)",
        "UPDATE pages SET title = 'Our snow' WHERE id = 5",
        "DELETE FROM details WHERE id = 1",
        "INSERT INTO pages VALUES (9, 'new', 'New here', '', 0)");
    pair.on(
        "live",
        "UPDATE pages SET title = 'Theirs' WHERE id IN (1, " + winter + ")",
        "DELETE FROM pages WHERE id = " + snow,
        "UPDATE details SET value = 'edited' WHERE id = 1",
        "INSERT INTO pages VALUES (19, 'new', 'New there', '', 0)");
    assertThat(lines(pair))
        .containsExactlyInAnyOrder(
            "update pages 1 [ both-edited]",
            "update pages " + winter + " [ both-edited]",
            "update pages 19 [ both-added]",
            "add pages " + snow + " [ edited-gone]",
            "remove details 1 [ gone-edited]");
    apply(pair, Answer.SKIP);
    assertThat(lines(pair)).as("what was skipped comes again").hasSize(5);
    pair.on("staging", "INSERT INTO tags VALUES (8, 'quay')");
    apply(pair, Answer.TARGET, Decision.byRule(1));
    assertThat(lines(pair)).as("what a rule decided is not settled").hasSize(5);
    // Another draft than the one before.
    pair.on("staging", "INSERT INTO tags VALUES (9, 'pier')");
    apply(pair, Answer.TARGET);
    assertThat(lines(pair)).as("what was decided is settled").isEmpty();
    assertThat(
            pair.ask(
                "live", "SELECT title FROM pages WHERE title LIKE 'The%' OR title LIKE 'New%'"))
        .containsExactlyInAnyOrder("Theirs", "Theirs", "New there");
    pair.on("live", "UPDATE pages SET title = 'Theirs still' WHERE id IN (1, 19)");
    assertThat(lines(pair)).isEmpty();
    pair.on(
        "staging",
        "UPDATE pages SET title = 'Ours again' WHERE id IN (1, 9)",
        "UPDATE pages SET body = 'A new body' WHERE id = 4");
    assertThat(lines(pair))
        .containsExactlyInAnyOrder(
            "update pages 1 [ both-edited]",
            "update pages 19 [ both-edited]",
            "update pages " + winter + " [body][]");
    apply(pair, Answer.SOURCE);
    assertThat(lines(pair)).isEmpty();
    assertThat(pair.ask("live", "SELECT title, body FROM pages WHERE id = " + winter))
        .containsExactly("Theirs\tA new body");
    pair.on("live", "UPDATE pages SET title = 'Last word' WHERE id = 19");
    assertThat(lines(pair)).isEmpty();
    pair.on("staging", "UPDATE pages SET slug = 'renamed' WHERE id = 9");
    assertThat(lines(pair))
        .as("what both added is one thing")
        .containsExactly("update pages 19 [slug][]");
    pair.on("staging", "DELETE FROM pages WHERE id = 9");
    assertThat(lines(pair)).containsExactly("remove pages 19 [ gone-edited]");
    pair.on("staging", "INSERT INTO pages VALUES (9, 'new', 'Ours again', '', 0)");
    pair.undo(true);
    assertThat(lines(pair)).as("the undone week is open again").hasSize(3);
  }

  /** On all three sides stood one number, and the edit was overlooked. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void oneNumberMayMeanAnotherRowOnEachCopy(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    String winter = number(pair, "pages", "slug", "winter");
    pair.on("staging", "UPDATE pages SET parent = 4 WHERE id = 2");
    pair.apply(pair.approvedDraft());
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (" + winter + ", 'ice', 'Ice', '', 0)",
        "UPDATE pages SET parent = " + winter + " WHERE id = 2");
    assertThat(lines(pair)).contains("update pages 2 [parent][]");
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatBothCopiesHadAlikeIsOneThingFromThenOn(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (9, 'ice', 'Ice', 'Beware', 0)",
        "INSERT INTO links VALUES (2, 1, 5)",
        "UPDATE pages SET title = 'Welcome' WHERE id = 1",
        "UPDATE entries SET label = 'News' WHERE id = 1");
    pair.on(
        "live",
        "INSERT INTO pages VALUES (19, 'ice', 'Ice', 'Beware', 0)",
        "INSERT INTO links VALUES (2, 1, 5)",
        "UPDATE pages SET title = 'Welcome', body = 'Another' WHERE id = 1");
    assertThat(lines(pair)).containsExactly("update entries 1 [label][]");
    pair.apply(pair.approvedDraft());
    pair.on(
        "staging",
        "UPDATE pages SET slug = 'frost' WHERE id = 9",
        "UPDATE pages SET title = 'Hello' WHERE id = 1",
        "DELETE FROM links WHERE page_id = 2");
    pair.on("live", "UPDATE pages SET title = 'Ice!' WHERE id = 19");
    assertThat(lines(pair))
        .containsExactlyInAnyOrder(
            "update pages 1 [title][]", "update pages 19 [slug][]", "remove links 2, 1 []");
    pair.undo(false);
    assertThat(lines(pair))
        .as("an undo forgets it, too")
        .containsExactlyInAnyOrder(
            "update entries 1 [label][]", "update pages 1 [ both-edited]", "add pages 9 []");
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void theWayBackBringsOnlyWhatIsLiveSOwn(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind);
    Pair back = pair.intoStaging();
    List<String> own = lines(back);
    assertThat(own)
        .as("what came from staging does not go back")
        .allMatch(line -> line.startsWith("add") && line.endsWith("[]"))
        .hasSize(7);
    pair.on("staging", "DELETE FROM entries WHERE id = 3");
    assertThat(lines(back)).as("staging's own work stays").isEqualTo(own);
    String winter = number(pair, "pages", "slug", "winter");
    String snow = number(pair, "pages", "slug", "snow");
    pair.on(
        "live",
        "UPDATE pages SET title = 'Winter 2027', parent = 5 WHERE id = " + winter,
        "UPDATE pages SET body = '<i class=\"page-" + snow + "\">' WHERE id = 1",
        "UPDATE pages SET title = 'Cold' WHERE id = " + snow,
        "UPDATE details SET value = 'surely' WHERE page_id = " + winter,
        "DELETE FROM links WHERE page_id = " + winter,
        "UPDATE entries SET label = 'Snow here' WHERE label = 'Snow'");
    pair.on(
        "staging",
        "UPDATE pages SET slug = 'winter-27' WHERE id = 4",
        "UPDATE pages SET title = 'Ours' WHERE id = 5");
    List<String> news = new ArrayList<>(lines(back));
    news.removeAll(own);
    assertThat(news)
        .containsExactlyInAnyOrder(
            "update pages 1 [body][]",
            "update pages 4 [title, parent][]",
            "update pages 5 [ both-edited]",
            "update details 2 [value][]",
            "remove links 4, 2 []",
            "add entries 3 [id, label, page_id][ edited-gone]");
    apply(back, Answer.TARGET);
    assertThat(lines(back)).as("all is brought or decided").isEmpty();
    assertThat(
            pair.ask(
                "staging",
                "SELECT p.slug, p.title, IFNULL(q.slug, '') FROM pages p LEFT JOIN pages q ON q.id = p.parent"
                    + " ORDER BY p.slug"))
        .containsExactly(
            "fares\tPrices\t",
            "gale\tGale\t",
            "home\tHome\t",
            "snow\tOurs\twinter-27",
            "storm\tStorm\t",
            "winter-27\tWinter 2027\tgale");
    assertThat(pair.ask("staging", "SELECT body FROM pages WHERE id = 1"))
        .containsExactly("<i class=\"page-5\">");
    assertThat(lines(pair))
        .as("the other way there is what staging did, and no more")
        .containsExactlyInAnyOrder(
            "update pages " + winter + " [slug][]",
            "update pages " + snow + " [title][]",
            "remove entries " + number(pair, "entries", "label", "Snow here") + " []");
    pair.on("staging", "UPDATE pages SET title = 'Winter 2028' WHERE id = 4");
    apply(pair, Answer.SOURCE);
    assertThat(lines(pair)).isEmpty();
    assertThat(lines(back)).isEmpty();
    assertThat(pair.ask("live", "SELECT slug, title FROM pages WHERE id = " + winter))
        .containsExactly("winter-27\tWinter 2028");
    back.undo(true);
    assertThat(lines(back)).as("what was undone comes again").isNotEmpty();
  }
}
