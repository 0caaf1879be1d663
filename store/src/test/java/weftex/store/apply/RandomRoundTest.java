package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.store.testing.Pair;

/**
 * Random weeks on both copies, from a seed: after applying, staging's edits are on live and live's
 * own rows are as they were; undo gives back exactly what was there before; a comparison after the
 * apply finds nothing left to do.
 */
class RandomRoundTest {
  @TempDir Path folder;

  private static final List<String> TABLES = List.of("pages", "notes", "fares");
  private static final String NUMBER = "INTEGER PRIMARY KEY AUTOINCREMENT";

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 5, 8, 13, 21, 34, 55, 89, 144, 233})
  void applyAndUndo(long seed) throws Exception {
    Random random = new Random(seed);
    Pair pair = Pair.create(Pair.Kind.SQLITE, folder, Pair.content("pages", "notes", "fares"));
    pair.both(
        "CREATE TABLE pages (id "
            + NUMBER
            + ", title TEXT, body TEXT, parent INTEGER REFERENCES pages (id))",
        "CREATE TABLE notes (id "
            + NUMBER
            + ", text TEXT, page INTEGER NOT NULL REFERENCES pages (id))",
        "CREATE TABLE fares (route INTEGER, kind TEXT, price INTEGER, PRIMARY KEY (route, kind))");
    for (int i = 1; i <= 40; i++) {
      pair.both(
          "INSERT INTO pages VALUES ("
              + i
              + ", 'title "
              + i
              + "', 'body', "
              + (i > 20 ? i - 20 : "NULL")
              + ")",
          "INSERT INTO notes VALUES (" + i + ", 'note', " + (1 + random.nextInt(i)) + ")",
          "INSERT INTO fares VALUES (" + i % 8 + ", 'kind " + i / 8 + "', " + i + ")");
    }
    pair.mark();
    week(pair, "staging", random);
    week(pair, "live", random);
    List<String> before = everything(pair);

    Path draft = pair.approvedDraft(true);
    ApplyOutcome outcome = pair.apply(draft);
    assertThat(outcome).isInstanceOf(ApplyOutcome.Applied.class);
    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) outcome;
    assertThat(applied.adds() + applied.updates() + applied.removes()).isPositive();
    assertThat(pair.ask("live", "SELECT title FROM pages WHERE title LIKE 'live %' ORDER BY title"))
        .as("pages that only live added")
        .containsAll(
            before.stream()
                .filter(row -> row.startsWith("pages") && row.contains("\tlive new"))
                .map(row -> row.split("\t")[2])
                .toList());
    assertThat(pair.ask("live", "PRAGMA foreign_key_check")).isEmpty();
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM pages WHERE title LIKE 'staging new%'"))
        .isEqualTo(
            pair.ask("staging", "SELECT COUNT(*) FROM pages WHERE title LIKE 'staging new%'"));

    UndoOutcome undone = pair.undo(false);
    assertThat(undone.leftAlone()).isEmpty();
    assertThat(everything(pair)).isEqualTo(before);
  }

  private static List<String> everything(Pair pair) {
    List<String> rows = new ArrayList<>();
    for (String table : TABLES) {
      pair.ask("live", "SELECT * FROM " + table + " ORDER BY 1, 2")
          .forEach(row -> rows.add(table + "\t" + row));
    }
    return rows;
  }

  private static void week(Pair pair, String copy, Random random) {
    for (int i = 0; i < 25; i++) {
      int id = 1 + random.nextInt(40);
      switch (random.nextInt(7)) {
        case 0 ->
            pair.on(copy, "UPDATE pages SET title = '" + copy + " " + i + "' WHERE id = " + id);
        case 1 ->
            pair.on(copy, "UPDATE pages SET body = '" + copy + " body " + i + "' WHERE id = " + id);
        case 2 ->
            pair.on(
                copy,
                "INSERT INTO pages (title, body, parent) VALUES ('"
                    + copy
                    + " new "
                    + i
                    + "', 'x', (SELECT MAX(id) FROM pages))");
        case 3 ->
            pair.on(
                copy,
                "INSERT INTO notes (text, page) VALUES ('"
                    + copy
                    + " "
                    + i
                    + "', (SELECT MAX(id) FROM pages))");
        case 4 -> pair.on(copy, "DELETE FROM notes WHERE id = " + id);
        case 5 ->
            pair.on(copy, "UPDATE fares SET price = price + " + i + " WHERE route = " + id % 8);
        default ->
            pair.on(
                copy,
                "DELETE FROM pages WHERE id = "
                    + id
                    + " AND id NOT IN (SELECT page FROM notes) AND id NOT IN (SELECT parent FROM pages WHERE parent IS NOT NULL)");
      }
    }
  }
}
