package weftex.store.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.model.SiteModel;
import weftex.store.apply.ApplyOutcome;
import weftex.store.testing.Pair;

/** Counters and caches that follow from an apply, and from its undo. */
class AfterEffectsTest {
  private static final String MODEL =
      """
      model: test
      steps:
        - {say: Copy the files., after: [pages]}
        - {say: Never said., after: [settings]}
      appointments:
        - of: pages
          where: {state: later}
          at: title
          hook: show
          in: {table: settings, where: {name: diary}, column: value}
      tables:
        pages:
          counters:
            comments: {of: comments, by: page_id, where: {state: [shown, pinned]}}
          references: {}
        comments:
          references: {page_id: {to: pages}}
        tags:
          counters:
            uses: {of: links, by: tag_id, through: {column: page_id, to: pages, where: {state: shown}}}
        links:
          references: {page_id: {to: pages}, tag_id: {to: tags}}
        settings:
          clear:
            - {when: {name: ["cache*"]}, column: value, after: [links]}
            - {when: {name: [routes]}, column: value, after: [settings]}
      """;

  @TempDir Path folder;

  private Pair site(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    for (String copy : List.of("staging", "live")) {
      boolean server =
          kind != Pair.Kind.SQLITE && (copy.equals("live") || kind == Pair.Kind.MARIADB);
      String number =
          server ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT";
      pair.on(
          copy,
          "CREATE TABLE pages (id "
              + number
              + ", title VARCHAR(50), state VARCHAR(9) NOT NULL, comments INT NOT NULL)",
          "CREATE TABLE comments (id " + number + ", page_id BIGINT, state VARCHAR(9) NOT NULL)",
          "CREATE TABLE tags (id " + number + ", name VARCHAR(20), uses INT NOT NULL)",
          "CREATE TABLE links (page_id BIGINT NOT NULL, tag_id BIGINT NOT NULL, PRIMARY KEY"
              + " (page_id, tag_id))",
          "CREATE TABLE settings (name VARCHAR(50) NOT NULL PRIMARY KEY, value TEXT)",
          "INSERT INTO pages VALUES (1, 'Home', 'shown', 1), (2, 'Fares', 'shown', 0)",
          "INSERT INTO comments VALUES (1, 1, 'shown'), (2, 1, 'spam')",
          "INSERT INTO tags VALUES (1, 'ice', 1), (2, 'storm', 7)",
          "INSERT INTO links VALUES (1, 1)",
          "INSERT INTO settings VALUES ('cache_a', 'x'), ('routes', 'r'), ('title', 'T')");
    }
    return pair.mark();
  }

  private static void work(Pair pair) throws Exception {
    pair.on(
        "staging",
        "UPDATE pages SET title = 'Prices', comments = 99 WHERE id = 2",
        "INSERT INTO pages VALUES (3, 'New', 'hidden', 50)",
        "INSERT INTO links VALUES (2, 1), (3, 1), (2, 2)",
        "INSERT INTO comments VALUES (3, 2, 'pinned')");
    pair.on(
        "live",
        "INSERT INTO comments VALUES (3, 2, 'shown')",
        "UPDATE pages SET comments = 1 WHERE id = 2");
  }

  private static List<String> counted(Pair pair) throws Exception {
    List<String> counted = new java.util.ArrayList<>();
    for (String query :
        List.of(
            "SELECT comments FROM pages ORDER BY id",
            "SELECT uses FROM tags ORDER BY id",
            "SELECT value FROM settings ORDER BY name")) {
      counted.add(String.join(" ", pair.ask("live", query)));
    }
    return counted;
  }

  @ParameterizedTest
  @EnumSource
  void countersOfTouchedRowsAreRecountedAndUndoGivesThemBack(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    work(pair);
    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) pair.apply(pair.approvedDraft());
    // Two comments on page 2, none on the new page; tag 1 has two shown pages, and 7 was wrong for
    // tag 2.
    assertThat(counted(pair)).containsExactly("1 2 0", "2 1", " r T");
    assertThat(applied.steps()).containsExactly("Copy the files.");
    assertThat(applied.effects())
        .extracting(effect -> effect.table() + "." + String.join("", effect.after().keySet()))
        .contains("pages.comments", "tags.uses", "settings.value");
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(counted(pair)).containsExactly("1 1", "1 7", "x r T");
  }

  private static final String BIN =
      """
      model: test
      along:
        - of: pages
          when: {state: [bin]}
          rows: {table: comments, by: page_id, column: state, becomes: with-page}
          remembered: {table: details, by: page_id, where: {name: were}, column: value}
      tables:
        pages: {number: id, identity: [title]}
        details:
          part-of: page_id
          number: id
          identity: [page_id, name]
          rows: [{when: {name: [were]}, role: noise}]
          references: {page_id: {to: pages}}
        comments: {role: live, number: id, references: {page_id: {to: pages}}}
      """;

  private Pair bin(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(BIN));
    for (String copy : List.of("staging", "live")) {
      boolean server =
          kind != Pair.Kind.SQLITE && (copy.equals("live") || kind == Pair.Kind.MARIADB);
      String number =
          server ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT";
      pair.on(
          copy,
          "CREATE TABLE pages (id " + number + ", title VARCHAR(50), state VARCHAR(9) NOT NULL)",
          "CREATE TABLE details (id " + number + ", page_id BIGINT, name VARCHAR(9), value TEXT)",
          "CREATE TABLE comments (id " + number + ", page_id BIGINT, state VARCHAR(9) NOT NULL)",
          "INSERT INTO pages VALUES (1, 'Home', 'shown'), (2, 'Fares', 'shown'), (3, 'Map', 'shown')",
          "INSERT INTO comments VALUES (1, 1, 'shown'), (2, 2, 'shown'), (3, 2, 'spam')");
    }
    pair.mark();
    pair.on("live", "INSERT INTO comments VALUES (4, 2, 'waits'), (5, 1, 'shown')");
    // As the CMS does it, which knows a comment of its own by a number that live gave to another.
    pair.on(
        "staging",
        "INSERT INTO comments VALUES (5, 2, 'with-page')",
        "UPDATE comments SET state = 'with-page' WHERE page_id = 2",
        "UPDATE pages SET state = 'bin' WHERE id > 1",
        "INSERT INTO details VALUES (1, 2, 'were', 'a:1:{i:5;s:5:\"shown\";}')");
    return pair;
  }

  private static final String COMMENTS = "SELECT id, state FROM comments ORDER BY id";
  private static final String DETAILS = "SELECT page_id, value FROM details";

  @ParameterizedTest
  @EnumSource
  void commentsGoIntoTheBinWithTheirPageAndComeBackOutOfIt(Pair.Kind kind) throws Exception {
    Pair pair = bin(kind);
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", COMMENTS))
        .containsExactly("1\tshown", "2\twith-page", "3\twith-page", "4\twith-page", "5\tshown");
    assertThat(pair.ask("live", DETAILS))
        .containsExactly("2\ta:3:{i:2;s:5:\"shown\";i:3;s:4:\"spam\";i:4;s:5:\"waits\";}");
    assertThat(pair.changes()).isEmpty();

    pair.on(
        "staging",
        "UPDATE pages SET state = 'shown' WHERE id = 2",
        "UPDATE comments SET state = 'shown' WHERE page_id = 2",
        "DELETE FROM details");
    pair.on("live", "UPDATE comments SET state = 'gone' WHERE id = 4");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", COMMENTS))
        .containsExactly("1\tshown", "2\tshown", "3\tspam", "4\tgone", "5\tshown");
    assertThat(pair.ask("live", DETAILS)).isEmpty();

    // Out of the bin was the last apply; taking it back puts all into the bin again.
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(pair.ask("live", COMMENTS))
        .containsExactly("1\tshown", "2\twith-page", "3\twith-page", "4\tgone", "5\tshown");
    assertThat(pair.ask("live", DETAILS)).hasSize(1);
  }

  @ParameterizedTest
  @EnumSource
  void anUndoTakesThemOutOfTheBin(Pair.Kind kind) throws Exception {
    Pair pair = bin(kind);
    List<String> before = pair.ask("live", COMMENTS);
    pair.apply(pair.approvedDraft());
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(pair.ask("live", COMMENTS)).isEqualTo(before);
    assertThat(pair.ask("live", DETAILS)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void anUndoRecountsWhatMovedSince(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    work(pair);
    pair.apply(pair.approvedDraft());
    pair.on(
        "live",
        "INSERT INTO comments VALUES (90, 2, 'shown')",
        "UPDATE pages SET comments = 3 WHERE id = 2",
        "UPDATE settings SET value = 'made anew' WHERE name = 'cache_a'");
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(counted(pair)).containsExactly("1 2", "1 7", " r T");
  }

  @ParameterizedTest
  @EnumSource
  void aNewCommentBetweenDraftAndApplyIsNoDrift(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    work(pair);
    Path draft = pair.approvedDraft();
    pair.on(
        "live",
        "INSERT INTO comments VALUES (80, 2, 'shown')",
        "UPDATE pages SET comments = 2 WHERE id = 2");
    assertThat(pair.apply(draft)).isInstanceOf(ApplyOutcome.Applied.class);
    assertThat(counted(pair).get(0)).isEqualTo("1 3 0");
  }

  @ParameterizedTest
  @EnumSource
  void anUndoThatLeavesARowAloneCountsWhatIsThere(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    work(pair);
    pair.on("staging", "UPDATE pages SET state = 'shown' WHERE id = 3");
    pair.apply(pair.approvedDraft());
    assertThat(counted(pair)).containsExactly("1 2 0", "3 1", " r T");
    pair.on("live", "UPDATE pages SET title = 'Edited on live' WHERE title = 'New'");
    assertThat(pair.undo(false).leftAlone()).isNotEmpty();
    // The edited page keeps its link, so the first tag has two pages; the cache is made anew.
    assertThat(counted(pair)).containsExactly("1 1 0", "2 0", " r T");
  }

  @ParameterizedTest
  @EnumSource
  void aRowWithATimeIsEnteredUnderItsNewNumber(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    String diary = "a:2:{i:100;a:1:{s:4:\"tidy\";a:0:{}}s:7:\"version\";i:2;}";
    pair.on("live", "INSERT INTO settings VALUES ('diary', '" + diary + "')");
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (3, '2031-01-10 06:30:00', 'later', 0), (4, 'no time', 'later', 0)");
    pair.on("live", "INSERT INTO pages VALUES (3, 'Taken', 'shown', 0)");
    pair.apply(pair.approvedDraft());
    // 2031-01-10 06:30 UTC; page 3 of staging is page 5 on live.
    assertThat(pair.ask("live", "SELECT value FROM settings WHERE name = 'diary'").get(0))
        .startsWith(
            "a:3:{i:100;a:1:{s:4:\"tidy\";a:0:{}}i:1925793000;a:1:{s:4:\"show\";a:1:{s:32:\"")
        .endsWith("s:4:\"args\";a:1:{i:0;i:5;}}}}s:7:\"version\";i:2;}");
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(pair.ask("live", "SELECT value FROM settings WHERE name = 'diary'"))
        .containsExactly(diary);
  }
}
