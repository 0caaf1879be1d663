package weftex.store.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.change.RowChange;
import weftex.core.model.Judgement;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.select.Selection;
import weftex.store.testing.Pair;

/** Tables that no model names: what visitors make in them stays theirs. */
class UnknownTablesTest {
  private static final String MODEL = "model: test\ntables: {pages: {number: id, references: {}}}";

  @TempDir Path folder;

  private Pair pair(SiteModel model) throws Exception {
    Pair pair = Pair.create(Pair.Kind.SQLITE, folder, model);
    pair.both(
        "CREATE TABLE pages (id INTEGER PRIMARY KEY AUTOINCREMENT, title TEXT)",
        "CREATE TABLE ship_orders (id INTEGER PRIMARY KEY AUTOINCREMENT, total INT)",
        "CREATE TABLE waiting (id INTEGER PRIMARY KEY AUTOINCREMENT, e_mail TEXT)",
        "CREATE TABLE piers (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT)",
        "CREATE TABLE templates (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT)",
        "CREATE TABLE visit_log (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT)");
    for (String table : List.of("pages", "ship_orders", "waiting", "piers", "templates")) {
      pair.both("INSERT INTO " + table + " VALUES (1, 'one'), (2, 'two')");
    }
    pair.mark();
    for (String table :
        List.of("pages", "ship_orders", "waiting", "piers", "templates", "visit_log")) {
      pair.on(
          "staging",
          "DELETE FROM " + table + " WHERE id = 1",
          "INSERT INTO " + table + " VALUES (3, 'three')");
    }
    return pair;
  }

  private static List<String> changes(Pair pair) throws Exception {
    return pair.changes().stream().map(UnknownTablesTest::line).toList();
  }

  private static String line(RowChange change) {
    return change.action().label()
        + " "
        + change.table()
        + " "
        + change.keyText()
        + change.conflicts().stream().map(c -> " " + c.kind().label()).toList();
  }

  private static Map<String, Judgement> judged(Pair pair) throws Exception {
    try (ComparisonRun run = pair.compare()) {
      run.planner().choose(Selection.CONTENT);
      return run.site().unknown();
    }
  }

  @Test
  void whatVisitorsMakeStaysAndNothingIsRemovedWithoutADecision() throws Exception {
    Pair pair = pair(SiteModel.read(MODEL));
    assertThat(changes(pair))
        .containsExactlyInAnyOrder(
            "remove pages 1[]",
            "add pages 3[]",
            "remove piers 1[ unknown-table]",
            "add piers 3[]",
            "remove templates 1[ unknown-table]",
            "add templates 3[]");
    assertThat(judged(pair))
        .containsOnlyKeys("ship_orders", "waiting", "piers", "templates", "visit_log")
        .hasEntrySatisfying("ship_orders", j -> assertThat(j.role()).isEqualTo(Role.LIVE))
        .hasEntrySatisfying("waiting", j -> assertThat(j.evidence()).contains("column e_mail"))
        .hasEntrySatisfying("visit_log", j -> assertThat(j.role()).isEqualTo(Role.NOISE));
  }

  @Test
  void aTableIntoWhichRowsCameOnLiveIsLiveSOwn() throws Exception {
    Pair pair = pair(SiteModel.read(MODEL));
    pair.on("live", "INSERT INTO piers VALUES (8, 'eight')");
    assertThat(changes(pair)).noneMatch(line -> line.contains("piers"));
    assertThat(judged(pair).get("piers"))
        .isEqualTo(new Judgement(Role.LIVE, "1 row came in on live since the base was recorded"));
  }

  @Test
  void whatAMergeBroughtIsNoEvidence() throws Exception {
    Pair pair = pair(SiteModel.read(MODEL));
    pair.apply(pair.approvedDraft());
    assertThat(changes(pair)).isEmpty();
    pair.on("staging", "UPDATE piers SET name = 'edited' WHERE id = 3");
    assertThat(changes(pair)).containsExactly("update piers 3[]");
  }

  @Test
  void whatItsColumnsReferToIsFoundInTheData() throws Exception {
    Pair pair =
        Pair.create(
            Pair.Kind.SQLITE,
            folder,
            SiteModel.read(
                """
                model: test
                people: {table: persons, known-by: [login]}
                tables:
                  posts: {number: id, item: {kind-from: kind, name: [title]}}
                  persons: {number: id, role: live, identity: [login]}
                """));
    pair.both(
        "CREATE TABLE posts (id INTEGER PRIMARY KEY AUTOINCREMENT, kind TEXT, title TEXT)",
        "CREATE TABLE persons (id INTEGER PRIMARY KEY AUTOINCREMENT, login TEXT)",
        "CREATE TABLE tips (id INTEGER PRIMARY KEY AUTOINCREMENT, page_id INT, seat_id INT, updated_by INT, width INT)",
        "INSERT INTO persons VALUES (1, 'mira')",
        "INSERT INTO posts VALUES (1, 'page', 'Home'), (2, 'page', 'Fares'), (3, 'news', 'Storm')",
        "INSERT INTO tips VALUES (1, 1, 1, 1, 3), (2, 2, 2, 1, 4)");
    pair.mark();
    pair.on("live", "INSERT INTO posts VALUES (4, 'news', 'Late')");
    pair.on(
        "staging",
        "INSERT INTO posts VALUES (4, 'page', 'Winter')",
        "INSERT INTO tips VALUES (3, 4, 4, 1, 4)");
    pair.apply(pair.approvedDraft());
    assertThat(
            pair.ask(
                "live",
                "SELECT p.title, t.seat_id, t.updated_by, t.width FROM tips t JOIN posts p ON p.id = t.page_id WHERE t.id = 3"))
        .as("the page follows, and what only looks like it stays")
        .containsExactly("Winter\t4\t1\t4");
    assertThat(changes(pair)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatNoNameTellsIsTakenForAReferenceIfItsRowsAreOfOneKind(Pair.Kind kind) throws Exception {
    Pair pair =
        Pair.create(
            kind,
            folder,
            SiteModel.read(
                """
                model: test
                tables:
                  posts:
                    number: id
                    item: {kind-from: kind, kinds: {attachment: picture or file}, name: [title]}
                """));
    pair.both(
        "CREATE TABLE posts (id INTEGER PRIMARY KEY, kind VARCHAR(20), title VARCHAR(20))",
        "CREATE TABLE tips (id INTEGER PRIMARY KEY, hero_id INT, photo_id INT, seat_id INT)",
        "INSERT INTO posts VALUES (1, 'page', 'a'), (2, 'page', 'b'), (3, 'page', 'c'), (4, 'page', 'd'), (5, 'attachment', 'e'), (6, 'attachment', 'f'), (7, 'page', 'g'), (8, 'page', 'h'), (9, 'page', 'i')",
        "INSERT INTO tips VALUES (1, 5, 5, 5), (2, 6, 5, 1), (3, 5, 5, 2)");
    pair.mark();
    try (ComparisonRun run = pair.compare()) {
      assertThat(run.tables().guessedReferences().get("tips"))
          .as("a seat is one of several kinds")
          .extracting(guess -> guess.column() + " " + guess.to() + ", " + guess.why())
          .containsExactly(
              "hero_id posts, 100.0 % of 2 values exist in posts.id, all of kind 'attachment'",
              "photo_id posts, 100.0 % of 1 values exist in posts.id");
    }
  }

  @Test
  void oneWordEndsTheQuestion() throws Exception {
    Pair pair =
        pair(
            SiteModel.read(MODEL).withRoles(Map.of("piers", Role.CONTENT, "templates", Role.LIVE)));
    assertThat(changes(pair))
        .containsExactlyInAnyOrder(
            "remove pages 1[]", "add pages 3[]", "remove piers 1[]", "add piers 3[]");
  }

  @Test
  void withoutAModelAllTablesAreJudgedBySuchEvidence() throws Exception {
    Pair pair = pair(SiteModel.PLAIN);
    assertThat(changes(pair))
        .contains("remove pages 1[ unknown-table]", "remove piers 1[ unknown-table]")
        .noneMatch(line -> line.contains("ship_orders"));
    assertThat(judged(pair)).containsKeys("pages", "piers", "ship_orders");
  }
}
