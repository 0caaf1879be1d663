package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;
import static weftex.store.apply.MergedPair.counts;
import static weftex.store.apply.MergedPair.lines;
import static weftex.store.apply.MergedPair.merged;
import static weftex.store.apply.MergedPair.number;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.store.testing.Pair;

/** A pair that was merged before: its rows are known again, whatever number they have. */
class SecondMergeTest {
  @TempDir Path folder;

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void editsOfMergedRowsReachLiveUnderItsNumbers(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind, folder);
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
    Pair pair = merged(kind, folder);
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
    Pair pair = merged(kind, folder);
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
    Pair pair = merged(kind, folder);
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

  /** On all three sides stood one number, and the edit was overlooked. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void oneNumberMayMeanAnotherRowOnEachCopy(Pair.Kind kind) throws Exception {
    Pair pair = merged(kind, folder);
    String winter = number(pair, "pages", "slug", "winter");
    pair.on("staging", "UPDATE pages SET parent = 4 WHERE id = 2");
    pair.apply(pair.approvedDraft());
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (" + winter + ", 'ice', 'Ice', '', 0)",
        "UPDATE pages SET parent = " + winter + " WHERE id = 2");
    assertThat(lines(pair)).contains("update pages 2 [parent][]");
  }
}
