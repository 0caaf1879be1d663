package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.change.RowChange;
import weftex.core.merge.ConflictKind;
import weftex.core.model.SiteModel;
import weftex.core.moving.Suspicion;
import weftex.core.select.Selection;
import weftex.store.compare.ComparisonRun;
import weftex.store.testing.Pair;

/**
 * Two pages have each other's number on the other copy, so that every number there means another.
 */
class CrossedNumbersTest {
  private static final String MODEL =
      """
      model: test
      tables:
        pages: {number: id}
        entries: {number: id}
        details:
          number: id
          part-of: entry_id
          references: {entry_id: {to: entries}}
          inside:
            value:
              - when: {name: opens}
                sibling: {same: [entry_id], with: {name: type, value: page}}
                refers: [{to: pages}]
      """;

  @TempDir Path folder;

  /** Page 2 of staging is page 3 of live, and the other way round. */
  private Pair crossed(Pair.Kind kind, SiteModel model, String... more) throws Exception {
    Pair pair = Pair.create(kind, folder, model);
    for (String copy : List.of("staging", "live")) {
      boolean server =
          kind != Pair.Kind.SQLITE && (copy.equals("live") || kind == Pair.Kind.MARIADB);
      String number =
          server ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT";
      pair.on(copy, "CREATE TABLE pages (id " + number + ", title VARCHAR(50))");
      for (String table : more) {
        pair.on(copy, table.replace("NUMBER", number));
      }
      pair.on(copy, "INSERT INTO pages VALUES (1, 'Home')");
    }
    pair.mark();
    pair.on("staging", "INSERT INTO pages VALUES (2, 'Winter')");
    pair.on("live", "INSERT INTO pages VALUES (2, 'Storm')");
    pair.apply(pair.approvedDraft());
    Pair back = pair.intoStaging();
    back.apply(back.approvedDraft());
    assertThat(pair.ask("staging", "SELECT title FROM pages ORDER BY id"))
        .containsExactly("Home", "Winter", "Storm");
    assertThat(pair.ask("live", "SELECT title FROM pages ORDER BY id"))
        .containsExactly("Home", "Storm", "Winter");
    return pair;
  }

  /** What the detail means stands in a row beside it, which live removed, too. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void anEntryThatLiveRemovedAndStagingLetOpenAnotherPage(Pair.Kind kind) throws Exception {
    Pair pair =
        crossed(
            kind,
            SiteModel.read(MODEL),
            "CREATE TABLE entries (id NUMBER, title VARCHAR(50))",
            "CREATE TABLE details (id NUMBER, entry_id BIGINT, name VARCHAR(20), value VARCHAR(50))");
    pair.on(
        "staging",
        "INSERT INTO entries VALUES (4, 'To winter')",
        "INSERT INTO details VALUES (1, 4, 'type', 'page'), (2, 4, 'opens', '2')");
    pair.on("live", "INSERT INTO entries VALUES (4, 'Of live')");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT value FROM details WHERE name = 'opens'"))
        .containsExactly("3");

    pair.on("live", "DELETE FROM details", "DELETE FROM entries WHERE id > 4");
    pair.on("staging", "UPDATE details SET value = '3' WHERE id = 2");
    assertThat(pair.intoStaging().changes())
        .flatExtracting(RowChange::conflicts)
        .extracting(conflict -> conflict.kind())
        .containsExactly(ConflictKind.GONE_EDITED);
  }

  /** To say whose a table is says nothing of its references. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aTableOfWhichOnlyTheRoleIsSaid(Pair.Kind kind) throws Exception {
    Pair pair =
        crossed(
            kind,
            SiteModel.read(
                """
                model: test
                tables:
                  pages: {number: id}
                  sailings: {role: content}
                """),
            "CREATE TABLE sailings (id NUMBER, title VARCHAR(50), page_id BIGINT)");
    pair.on("staging", "INSERT INTO sailings VALUES (1, 'Brae', 2), (2, 'Hesk', 99)");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT page_id FROM sailings ORDER BY id"))
        .containsExactly("3", "99");
  }

  /** Nor has it to be said. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aTableThatNoModelNames(Pair.Kind kind) throws Exception {
    Pair pair =
        crossed(
            kind,
            Pair.content("pages"),
            "CREATE TABLE sailings (id NUMBER, title VARCHAR(50), page_id BIGINT)");
    pair.on("staging", "INSERT INTO sailings VALUES (1, 'Brae', 2)");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT page_id FROM sailings")).containsExactly("3");
  }

  /** Settings of an extension, and its blocks: the names of their members say what they mean. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void membersWhoseNamesSayThatTheyReferToAPage(Pair.Kind kind) throws Exception {
    Pair pair =
        crossed(
            kind,
            SiteModel.read(
                """
                model: test
                tables:
                  pages: {number: id, identity: [title]}
                  entries: {references: {opens: {to: pages}}}
                  settings:
                    identity: [name]
                    item: {kind: setting, name: [name]}
                    inside: {value: [{when: {name: plain}, format: text}]}
                """),
            "CREATE TABLE settings (id NUMBER, name VARCHAR(20), value TEXT)");
    String text =
        "<p>2</p><!-- ferry:card {\"pageId\":2,\"width\":2} --><!-- ferry:card {\"page\":2} -->";
    pair.on(
        "staging",
        "INSERT INTO settings VALUES (1, 'json', '{\"page_id\":2,\"qty\":2,\"more\":[{\"pageIds\":[1,2,3]}],\"webpage_id\":2}'),"
            + " (2, 'php', 'a:2:{s:7:\"page_id\";i:2;s:3:\"qty\";i:2;}'),"
            + " (3, 'text', '"
            + text
            + "')");
    try (ComparisonRun run = pair.compare()) {
      assertThat(run.planner().choose(Selection.CONTENT).followed())
          .extracting(Suspicion::key, Suspicion::number, Suspicion::row)
          .containsExactly(
              tuple("1", "2", "pages 2"),
              tuple("1", "2", "pages 2"),
              tuple("1", "3", "pages 3"),
              tuple("2", "2", "pages 2"),
              tuple("3", "2", "pages 2"));
    }
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT value FROM settings ORDER BY id"))
        .containsExactly(
            "{\"page_id\":3,\"qty\":2,\"more\":[{\"pageIds\":[1,3,2]}],\"webpage_id\":2}",
            "a:2:{s:7:\"page_id\";i:3;s:3:\"qty\";i:2;}",
            text.replace("\"pageId\":2", "\"pageId\":3"));
    assertThat(pair.changes()).isEmpty();
    assertThat(pair.intoStaging().changes()).isEmpty();

    pair.on("live", "UPDATE settings SET value = REPLACE(value, '\"qty\":2', '\"qty\":5')");
    Pair back = pair.intoStaging();
    assertThat(back.changes()).extracting(RowChange::keyText).containsExactly("1");
    back.apply(back.approvedDraft());
    assertThat(pair.ask("staging", "SELECT value FROM settings WHERE id = 1"))
        .containsExactly(
            "{\"page_id\":2,\"qty\":5,\"more\":[{\"pageIds\":[1,2,3]}],\"webpage_id\":2}");
  }
}
