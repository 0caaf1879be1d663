package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.change.RowChange;
import weftex.core.changeset.DecisionLine;
import weftex.core.model.SiteModel;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.testing.Pair;

/** An undo of rows that refer to each other, in columns and inside of texts. */
class UndoCirclesTest {
  private static final String MODEL =
      """
      model: test
      people: {table: users, known-by: [login]}
      markup:
        - {css-class: picture-, to: posts}
      appointments:
        - of: posts
          where: {state: later}
          at: due
          hook: show
          in: {table: settings, where: {name: diary}, column: value}
      tables:
        users: {role: live, number: id, identity: [login], references: {}}
        posts:
          number: id
          identity: [title]
          counters: {comments: {of: comments, by: post_id}}
          references: {author: {to: users, unset: "0"}, parent: {to: posts, unset: "0"}}
          inside: {body: [{markup: true}]}
        details:
          part-of: post_id
          references: {post_id: {to: posts}}
        comments:
          role: live
          references: {post_id: {to: posts}}
        settings:
          clear: [{when: {name: [cache]}, column: value, after: [posts]}]
      """;

  private static final List<String> TABLES =
      List.of("users", "posts", "details", "comments", "settings");

  private static final String DUE = "2031-05-01 08:00:00";

  @TempDir Path folder;

  private Pair site(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    for (String copy : List.of("staging", "live")) {
      String number =
          kind == Pair.Kind.MARIADB
              ? "BIGINT AUTO_INCREMENT PRIMARY KEY"
              : "INTEGER PRIMARY KEY AUTOINCREMENT";
      pair.on(
          copy,
          "CREATE TABLE users (id " + number + ", login VARCHAR(20))",
          "CREATE TABLE posts (id "
              + number
              + ", title VARCHAR(50), body TEXT, author BIGINT NOT NULL, parent BIGINT NOT NULL,"
              + " state VARCHAR(9) NOT NULL, due VARCHAR(20), comments INT NOT NULL)",
          "CREATE TABLE details (id " + number + ", post_id BIGINT NOT NULL, value VARCHAR(20))",
          "CREATE TABLE comments (id " + number + ", post_id BIGINT NOT NULL, words VARCHAR(20))",
          "CREATE TABLE settings (id INT PRIMARY KEY, name VARCHAR(20), value TEXT)",
          "INSERT INTO users VALUES (1, 'ann')",
          "INSERT INTO posts VALUES (1, 'Home', '', 1, 0, 'shown', NULL, 7)",
          "INSERT INTO comments VALUES (1, 1, 'Nice')",
          "INSERT INTO settings VALUES (1, 'cache', 'full'), (2, 'diary', 'a:0:{}')");
    }
    pair.mark();
    pair.on(
        "staging",
        "INSERT INTO users VALUES (2, 'bob')",
        "INSERT INTO posts VALUES (2, 'Winter', '<img class=\"picture-3\">', 2, 0, 'later', '"
            + DUE
            + "', 0)",
        "INSERT INTO posts VALUES (3, 'Snow', '', 2, 2, 'shown', NULL, 0)",
        "INSERT INTO details VALUES (1, 2, 'wide'), (2, 3, 'small')",
        "UPDATE posts SET body = '<img class=\"picture-3\">', parent = 2 WHERE id = 1");
    pair.on("live", "INSERT INTO posts VALUES (2, 'Storm', '', 1, 0, 'shown', NULL, 0)");
    return pair;
  }

  private static List<String> everything(Pair pair) {
    List<String> rows = new ArrayList<>();
    for (String table : TABLES) {
      pair.ask("live", "SELECT * FROM " + table + " ORDER BY 1")
          .forEach(row -> rows.add(table + "\t" + row));
    }
    return rows;
  }

  /** A change set of everything, with the author whom it offers. */
  private static Path approved(Pair pair) throws Exception {
    Path file = pair.draft();
    for (RowChange offered : pair.changes()) {
      if (offered.offered()) {
        Decision bring =
            Decision.of(List.of(offered.id()), Optional.empty(), Answer.BRING, "test", "now", "");
        Files.write(file, DecisionLine.of(bring), StandardOpenOption.APPEND);
      }
    }
    pair.approve(file);
    return file;
  }

  private static List<String> words(UndoOutcome undone) {
    return undone.leftAlone().stream()
        .map(drift -> drift.table() + " " + drift.key() + " " + drift.what())
        .toList();
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void rightAfterTheApplyEverythingIsAsBefore(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    List<String> before = everything(pair);
    pair.apply(approved(pair));
    assertThat(pair.ask("live", "SELECT login FROM users ORDER BY id"))
        .containsExactly("ann", "bob");
    assertThat(pair.ask("live", "SELECT value FROM settings ORDER BY id"))
        .hasSize(2)
        .doesNotContain("full", "a:0:{}");
    UndoOutcome undone = pair.undo(false);
    assertThat(words(undone)).isEmpty();
    assertThat(everything(pair)).isEqualTo(before);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aPageInUseStaysWithWhatBelongsToIt(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    List<String> before = everything(pair);
    pair.apply(approved(pair));
    String page = pair.ask("live", "SELECT id FROM posts WHERE title = 'Winter'").get(0);
    String picture = pair.ask("live", "SELECT id FROM posts WHERE title = 'Snow'").get(0);
    pair.on("live", "INSERT INTO comments VALUES (9, " + page + ", 'Brr')");
    UndoOutcome undone = pair.undo(false);
    assertThat(words(undone))
        .contains(
            "posts " + page + " is in use: 1 row of comments hangs on it",
            "posts " + picture + " belongs to a row of posts that is left alone",
            "users 2 is in use: 2 rows of posts hang on it")
        .hasSize(5);
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM details")).containsExactly("2");
    assertThat(pair.ask("live", "SELECT parent FROM posts WHERE id = 1")).containsExactly("0");

    pair.on("live", "DELETE FROM comments WHERE id = 9");
    assertThat(words(pair.undo(false))).isEmpty();
    assertThat(pair.ask("live", "SELECT * FROM posts ORDER BY id"))
        .isEqualTo(
            before.stream()
                .filter(row -> row.startsWith("posts"))
                .map(row -> row.substring(6))
                .toList());
    assertThat(pair.ask("live", "SELECT login FROM users")).containsExactly("ann");
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aCircleThatTheServerWatchesOver(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.PLAIN);
    String number =
        kind == Pair.Kind.MARIADB ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY";
    pair.both("CREATE TABLE harbours (id " + number + ", name VARCHAR(20), main_quay BIGINT)");
    pair.both(
        "CREATE TABLE quays (id "
            + number
            + ", name VARCHAR(20), harbour BIGINT NOT NULL REFERENCES harbours (id))");
    if (kind == Pair.Kind.MARIADB) {
      pair.both("ALTER TABLE harbours ADD FOREIGN KEY (main_quay) REFERENCES quays (id)");
    } else {
      pair.both(
          "DROP TABLE harbours",
          "CREATE TABLE harbours (id "
              + number
              + ", name VARCHAR(20), main_quay BIGINT REFERENCES quays (id))");
    }
    pair.mark();
    pair.on(
        "staging",
        "INSERT INTO harbours VALUES (1, 'Hesk', NULL), (2, 'Norrey', NULL)",
        "INSERT INTO quays VALUES (1, 'North', 1), (2, 'East', 2), (3, 'West', 2)",
        "UPDATE harbours SET main_quay = id");
    pair.apply(approved(pair));
    assertThat(pair.ask("live", "SELECT name, main_quay FROM harbours ORDER BY id"))
        .containsExactly("Hesk\t1", "Norrey\t2");
    assertThat(words(pair.undo(false))).isEmpty();
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM harbours")).containsExactly("0");
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM quays")).containsExactly("0");
  }

  /** Rows that refer to each other at random; live goes on in every second round. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void anyCircles(int seed) throws Exception {
    Random random = new Random(seed);
    Pair pair = site(Pair.Kind.SQLITE);
    for (int id = 4; id < 16; id++) {
      pair.on(
          "staging",
          "INSERT INTO posts VALUES (%d, 'New %d', '<img class=\"picture-%d\">', %d, %d, 'shown', NULL, 0)"
              .formatted(id, id, 1 + random.nextInt(15), 1 + random.nextInt(2), random.nextInt(16)),
          "INSERT INTO details (post_id, value) VALUES (%d, 'x')"
              .formatted(1 + random.nextInt(id)));
    }
    List<String> before = everything(pair);
    pair.apply(approved(pair));
    List<String> ids = pair.ask("live", "SELECT id FROM posts ORDER BY id");
    boolean goesOn = seed % 2 == 0;
    for (int i = 0; goesOn && i < 3; i++) {
      String some = ids.get(random.nextInt(ids.size()));
      switch (random.nextInt(3)) {
        case 0 ->
            pair.on("live", "INSERT INTO comments (post_id, words) VALUES (" + some + ", 'Hi')");
        case 1 -> pair.on("live", "UPDATE posts SET title = title || '!' WHERE id = " + some);
        default ->
            pair.on(
                "live",
                "INSERT INTO posts (title, body, author, parent, state, comments)"
                    + " VALUES ('Live', '', 2, "
                    + some
                    + ", 'shown', 0)");
      }
    }
    UndoOutcome undone = pair.undo(false);
    if (!goesOn) {
      assertThat(words(undone)).isEmpty();
      assertThat(everything(pair)).isEqualTo(before);
    }
    for (String reference :
        List.of(
            "posts.parent=posts",
            "posts.author=users",
            "details.post_id=posts",
            "comments.post_id=posts")) {
      String[] part = reference.split("[.=]");
      assertThat(
              pair.ask(
                  "live",
                  "SELECT * FROM %s WHERE %s <> 0 AND %s NOT IN (SELECT id FROM %s)"
                      .formatted(part[0], part[1], part[1], part[2])))
          .as(reference)
          .isEmpty();
    }
  }
}
