package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;
import static weftex.store.apply.MergedPair.WELCOME;
import static weftex.store.apply.MergedPair.apply;
import static weftex.store.apply.MergedPair.lines;
import static weftex.store.apply.MergedPair.merged;
import static weftex.store.apply.MergedPair.number;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.testing.Pair;

/** What a merge settled stays settled, and what was decided is not asked again. */
class SettledMergeTest {
  @TempDir Path folder;

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatWasMergedInsideStaysMerged(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind, folder);
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
    Pair pair = merged(kind, folder);
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

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatBothCopiesHadAlikeIsOneThingFromThenOn(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind, folder);
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
    Pair pair = merged(kind, folder);
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
