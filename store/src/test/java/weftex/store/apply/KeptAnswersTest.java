package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.change.RowChange;
import weftex.core.changeset.DecisionLine;
import weftex.core.model.SiteModel;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.compare.ComparisonRun;
import weftex.store.testing.Pair;

/** What a person decided once is not asked again. */
class KeptAnswersTest {
  private static final String MODEL =
      """
      model: test
      tables:
        pages: {number: id, identity: [slug], references: {}}
        links:
          part-of: page_id
          references: {page_id: {to: pages}, tag_id: {to: tags}}
        tags: {number: id, identity: [name], references: {}}
      """;

  @TempDir Path folder;

  /**
   * A page has one number on staging and another on live. Staging removed it, live gave it a new
   * link: its key on staging is none that live knows.
   */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aLinkOfAPageThatStagingRemovedAndKeepsRemoved(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    for (String copy : List.of("staging", "live")) {
      boolean server =
          kind != Pair.Kind.SQLITE && (copy.equals("live") || kind == Pair.Kind.MARIADB);
      String number =
          server ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT";
      pair.on(
          copy,
          "CREATE TABLE pages (id " + number + ", slug VARCHAR(30), title VARCHAR(50))",
          "CREATE TABLE tags (id " + number + ", name VARCHAR(20))",
          "CREATE TABLE links (page_id BIGINT NOT NULL, tag_id BIGINT NOT NULL, PRIMARY KEY"
              + " (page_id, tag_id))",
          "INSERT INTO pages VALUES (1, 'home', 'Home')",
          "INSERT INTO tags VALUES (1, 'ferry'), (2, 'snow')");
    }
    pair.mark();
    pair.on(
        "live",
        "INSERT INTO pages VALUES (2, 'storm', 'Storm')",
        "INSERT INTO tags VALUES (3, 'storm')");
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (2, 'winter', 'Winter')",
        "INSERT INTO tags VALUES (3, 'ice')",
        "INSERT INTO links VALUES (2, 1)");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT id FROM pages WHERE slug = 'winter'")).containsExactly("3");

    pair.on("staging", "DELETE FROM links WHERE page_id = 2", "DELETE FROM pages WHERE id = 2");
    pair.on("live", "INSERT INTO links VALUES (3, 4)", "UPDATE pages SET title = 'W' WHERE id = 3");
    Pair back = pair.intoStaging();
    List<RowChange> asked = back.changes();
    assertThat(asked).extracting(RowChange::table).contains("pages", "links");
    Path file = back.draft();
    List<Integer> all =
        asked.stream().filter(c -> !c.conflicts().isEmpty()).map(RowChange::id).toList();
    answer(file, all, Answer.TARGET);
    back.approve(file);
    back.apply(file);
    assertThat(back.changes().stream().filter(c -> !c.conflicts().isEmpty())).isEmpty();
    assertThat(back.changes()).extracting(RowChange::table).doesNotContain("links");
  }

  /** Staging removed a detail; live did, too, and wrote another one of its name. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aDetailThatLiveMadeAnewStaysOrGoesAsSomebodyDecides(Pair.Kind kind) throws Exception {
    SiteModel model =
        SiteModel.read(
            """
            model: test
            tables:
              pages: {number: id, identity: [slug]}
              details:
                number: id
                part-of: page
                identity: [page, name]
                references: {page: {to: pages}}
            """);
    Pair pair = Pair.create(kind, folder, model);
    pair.both(
        "CREATE TABLE pages (id INTEGER PRIMARY KEY, slug VARCHAR(30))",
        "CREATE TABLE details (id INTEGER PRIMARY KEY, page INTEGER, name VARCHAR(30), value VARCHAR(50))",
        "INSERT INTO pages VALUES (1, 'home'), (2, 'fares')",
        "INSERT INTO details VALUES (1, 1, 'subtitle', 'Hello'), (2, 2, 'subtitle', 'Prices')");
    pair.mark();
    pair.on("staging", "DELETE FROM details");
    pair.on(
        "live",
        "DELETE FROM details",
        "INSERT INTO details VALUES (11, 1, 'subtitle', 'Good day'), (12, 2, 'subtitle', 'Tickets')");
    List<RowChange> asked = pair.changes();
    assertThat(asked).extracting(RowChange::keyText).containsExactlyInAnyOrder("11", "12");
    assertThat(asked)
        .allSatisfy(change -> assertThat(change.before().get("value")).isNotNull())
        .allSatisfy(
            change ->
                assertThat(change.conflicts())
                    .extracting(conflict -> conflict.kind().label())
                    .containsExactly("gone-edited"));
    Path file = pair.draft();
    for (RowChange change : asked) {
      answer(
          file,
          List.of(change.id()),
          change.keyText().equals("11") ? Answer.TARGET : Answer.SOURCE);
    }
    pair.approve(file);
    pair.apply(file);
    assertThat(pair.ask("live", "SELECT id, value FROM details")).containsExactly("11\tGood day");
    assertThat(pair.changes()).as("it was decided").isEmpty();

    pair.on("live", "UPDATE details SET value = 'Good evening' WHERE id = 11");
    assertThat(pair.changes()).as("it is live's own now").isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatWasDecidedForLiveIsAskedAgainIfSomebodyWantsThat(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE pages (id INTEGER PRIMARY KEY, title VARCHAR(50), note VARCHAR(50))",
        "INSERT INTO pages VALUES (1, 'Home', 'a'), (2, 'Fares', 'a'), (3, 'Dogs', 'a')");
    pair.mark();
    pair.on(
        "staging",
        "UPDATE pages SET title = 'Start', note = 'b' WHERE id = 1",
        "UPDATE pages SET title = 'Prices' WHERE id = 2",
        "UPDATE pages SET title = 'Cats' WHERE id = 3");
    pair.on(
        "live",
        "UPDATE pages SET title = 'Welcome' WHERE id = 1",
        "UPDATE pages SET title = 'Tickets' WHERE id = 2",
        "UPDATE pages SET title = 'Cats' WHERE id = 3");
    Path file = pair.draft();
    List<Integer> asked =
        pair.changes().stream().filter(c -> !c.conflicts().isEmpty()).map(RowChange::id).toList();
    assertThat(asked).hasSize(2);
    answer(file, asked, Answer.TARGET);
    pair.approve(file);
    pair.apply(file);
    assertThat(pair.ask("live", "SELECT title, note FROM pages ORDER BY id"))
        .containsExactly("Welcome\tb", "Tickets\ta", "Cats\ta");
    assertThat(pair.changes()).isEmpty();

    List<RowChange> again = pair.changes(ComparisonRun.Manner.USUAL.asksAgain(true));
    assertThat(again).extracting(RowChange::keyText).containsExactly("1", "2");
    assertThat(again)
        .allSatisfy(
            change -> {
              assertThat(change.after()).as("the note is settled").isEmpty();
              assertThat(change.conflicts())
                  .singleElement()
                  .satisfies(c -> assertThat(c.columns()).containsExactly("title"));
            });
    assertThat(pair.changes()).as("and nothing is forgotten by that").isEmpty();
  }

  /** What a rule keeps of a value of which the rest is merged is still staging's side next time. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatARuleKeptInsideOfAValueIsNotOverwrittenTheNextTime(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, Pair.content("settings"));
    pair.both(
        "CREATE TABLE settings (id INTEGER PRIMARY KEY, value VARCHAR(99))",
        "INSERT INTO settings VALUES (1, '{\"days\":30,\"mail\":\"a\",\"ship\":1}')");
    pair.mark();
    pair.on("live", "UPDATE settings SET value = '{\"days\":60,\"mail\":\"b\",\"ship\":1}'");
    pair.on("staging", "UPDATE settings SET value = '{\"days\":90,\"mail\":\"a\",\"ship\":2}'");
    Pair back = pair.intoStaging();
    Path file = back.draft();
    answer(file, List.of(1), Answer.TARGET, "--everything");
    back.approve(file);
    back.apply(file);
    String merged = "{\"days\":90,\"mail\":\"b\",\"ship\":2}";
    assertThat(pair.ask("staging", "SELECT value FROM settings")).containsExactly(merged);

    assertThat(back.changes())
        .singleElement()
        .satisfies(change -> assertThat(change.conflicts()).hasSize(1));
    pair.on("live", "UPDATE settings SET value = REPLACE(value, '\"b\"', '\"c\"')");
    file = back.draft();
    answer(file, List.of(1), Answer.TARGET, "--everything");
    back.approve(file);
    back.apply(file);
    assertThat(pair.ask("staging", "SELECT value FROM settings"))
        .containsExactly(merged.replace("\"b\"", "\"c\""));
  }

  private static void answer(Path file, List<Integer> changes, Answer answer) throws Exception {
    answer(file, changes, answer, "mira");
  }

  private static void answer(Path file, List<Integer> changes, Answer answer, String by)
      throws Exception {
    Files.write(
        file,
        DecisionLine.of(
            Decision.of(changes, Optional.empty(), answer, by, "2026-11-28T10:00:00Z", "")),
        StandardOpenOption.APPEND);
  }
}
