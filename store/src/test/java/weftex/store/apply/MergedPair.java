package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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

/** A pair whose additions on staging were merged, and what is asked of it. */
final class MergedPair {
  private MergedPair() {}

  static final String MODEL =
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

  static final String WELCOME =
      "<p>One ferry goes.</p> <p>Two are due.</p> <p>Three wait here.</p> <p>Four are old.</p>";

  /** Two weeks' start: staging's additions are on live, all of them under other numbers. */
  static Pair merged(Pair.Kind kind, Path folder) throws Exception {
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
  static List<String> counts(Pair pair) throws Exception {
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

  static List<String> lines(Pair pair) throws Exception {
    return pair.changes().stream().map(MergedPair::line).toList();
  }

  static String line(RowChange change) {
    return change.action().label()
        + " "
        + change.table()
        + " "
        + change.keyText()
        + " "
        + (change.after().isEmpty() || change.after().size() > 3 ? "" : change.after().keySet())
        + change.conflicts().stream().map(Conflict::kind).map(kind -> " " + kind.label()).toList();
  }

  static String number(Pair pair, String table, String column, String value) {
    return pair.ask("live", "SELECT id FROM %s WHERE %s = '%s'".formatted(table, column, value))
        .get(0);
  }

  static void decide(Path file, Answer answer, Integer id, String by) throws Exception {
    Decision decision = Decision.of(List.of(id), Optional.empty(), answer, by, "now", "");
    Files.write(file, DecisionLine.of(decision), StandardOpenOption.APPEND);
  }

  /** Drafts, answers every conflict in one way, and applies. */
  static void apply(Pair pair, Answer answer) throws Exception {
    apply(pair, answer, "test");
  }

  static void apply(Pair pair, Answer answer, String by) throws Exception {
    Path file = pair.draft();
    for (RowChange change : pair.changes()) {
      if (!change.conflicts().isEmpty()) {
        decide(file, answer, change.id(), by);
      }
    }
    pair.approve(file);
    pair.apply(file);
  }
}
