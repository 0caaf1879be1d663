package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.change.Conflict;
import weftex.core.merge.ConflictKind;
import weftex.core.model.SiteModel;
import weftex.store.testing.Pair;

/** Rows of tables that are not compared, and that hang on compared ones by a foreign key. */
class DependentsTest {
  private static final String MODEL =
      """
      model: test
      tables:
        notes: {part-of: page_id, word: note}
        versions:
          role: noise
          clear: [{column: newest, of: page_id}]
        pages: {}
        version_notes: {role: noise}
        locks: {role: noise}
      """;

  @TempDir Path folder;

  private Pair site(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    for (String copy : List.of("staging", "live")) {
      pair.on(
          copy,
          "CREATE TABLE pages (id INTEGER NOT NULL PRIMARY KEY, title VARCHAR(50) NOT NULL)",
          "CREATE TABLE notes (id INTEGER NOT NULL PRIMARY KEY, page_id INTEGER NOT NULL, text VARCHAR(20),"
              + " FOREIGN KEY (page_id) REFERENCES pages (id) ON DELETE CASCADE)",
          "CREATE TABLE versions (id INTEGER NOT NULL PRIMARY KEY, page_id INTEGER, newest INTEGER,"
              + " title VARCHAR(50), FOREIGN KEY (page_id) REFERENCES pages (id) ON DELETE CASCADE)",
          "CREATE TABLE version_notes (id INTEGER NOT NULL PRIMARY KEY, version_id INTEGER NOT NULL,"
              + " FOREIGN KEY (version_id) REFERENCES versions (id) ON DELETE CASCADE)",
          "CREATE TABLE locks (name VARCHAR(20) NOT NULL PRIMARY KEY, page_id INTEGER,"
              + " FOREIGN KEY (page_id) REFERENCES pages (id) ON DELETE SET NULL)",
          "INSERT INTO pages VALUES (1, 'Home'), (2, 'Fares'), (3, 'Jobs')",
          "INSERT INTO notes VALUES (1, 2, 'cheap')",
          "INSERT INTO versions VALUES (10, 3, 1, 'Jobs'), (11, 3, NULL, 'Job'), (12, 2, 1, 'Fares'),"
              + " (13, 1, 1, 'Home')",
          "INSERT INTO version_notes VALUES (20, 10), (21, 12)",
          "INSERT INTO locks VALUES ('mira', 3), ('odd', 1)");
    }
    return pair.mark();
  }

  private static List<String> kept(Pair pair) {
    return List.of(
        pair.ask("live", "SELECT * FROM versions ORDER BY id").toString(),
        pair.ask("live", "SELECT * FROM version_notes ORDER BY id").toString(),
        pair.ask("live", "SELECT * FROM locks ORDER BY name").toString());
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void goTheWayTheDatabaseSendsThemAndComeBackWithAnUndo(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "DELETE FROM version_notes WHERE id = 20",
        "DELETE FROM versions WHERE page_id = 3",
        "UPDATE locks SET page_id = NULL WHERE name = 'mira'",
        "DELETE FROM pages WHERE id = 3",
        "UPDATE notes SET text = 'dear' WHERE id = 1");
    List<String> before = kept(pair);
    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) pair.apply(pair.approvedDraft());
    assertThat(applied.removes()).isEqualTo(1);
    // The page of a changed note has no newest version any more; others keep theirs.
    assertThat(kept(pair))
        .containsExactly(
            "[12\t2\tNULL\tFares, 13\t1\t1\tHome]", "[21\t12]", "[mira\tNULL, odd\t1]");
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(kept(pair)).isEqualTo(before);
    assertThat(pair.ask("live", "SELECT title FROM pages WHERE id = 3")).containsExactly("Jobs");
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatOnlyTheTargetHasKeepsARowFromBeingRemoved(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "live",
        "CREATE TABLE orders (id INTEGER NOT NULL PRIMARY KEY, page_id INTEGER NOT NULL,"
            + " FOREIGN KEY (page_id) REFERENCES pages (id) ON DELETE CASCADE)",
        "INSERT INTO orders VALUES (1, 3)");
    pair.on("staging", "DELETE FROM versions WHERE page_id = 3", "DELETE FROM pages WHERE id = 3");
    assertThat(pair.changes())
        .singleElement()
        .satisfies(
            change ->
                assertThat(change.conflicts())
                    .extracting(Conflict::kind, Conflict::binding, Conflict::reason)
                    .containsExactly(
                        org.assertj.core.groups.Tuple.tuple(
                            ConflictKind.GONE_IN_USE,
                            true,
                            "1 row of orders refers to it and would lose it")));
  }
}
