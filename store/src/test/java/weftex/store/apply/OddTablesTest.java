package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.store.Refusal;
import weftex.store.engine.Drift;
import weftex.store.testing.Pair;

/** Tables as they are found in the field: bits as keys, engines without rollback, triggers. */
class OddTablesTest {
  @TempDir Path folder;

  private Pair pair(Pair.Kind kind, String... statements) throws Exception {
    Pair pair = Pair.create(kind, folder, Pair.content("a_notes", "b_notes", "flags"));
    return pair.both(statements).mark();
  }

  /** The rows were not found again, and "removed on live since" was said of them. */
  @Test
  void bitsAsAKey() throws Exception {
    Pair pair =
        pair(
            Pair.Kind.MARIADB,
            "CREATE TABLE flags (id BIT(12) PRIMARY KEY, title VARCHAR(20), mask BIT(4))",
            "INSERT INTO flags VALUES (1, 'one', 1), (2, 'two', 2), (300, 'many', 3)");
    String rows = "SELECT id + 0, title, mask + 0 FROM flags ORDER BY 1";
    List<String> before = pair.ask("live", rows);
    pair.on("staging", "UPDATE flags SET title = 'Many', mask = 9 WHERE id = 300");
    pair.on("staging", "DELETE FROM flags WHERE id = 2");
    pair.on("staging", "INSERT INTO flags VALUES (4000, 'new', 0)");
    assertThat(pair.apply(pair.approvedDraft())).isInstanceOf(ApplyOutcome.Applied.class);
    assertThat(pair.ask("live", rows)).isEqualTo(pair.ask("staging", rows));
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(pair.ask("live", rows)).isEqualTo(before);
  }

  @Test
  void enginesThatCantRollBackAreWrittenOnlyIfToldSo() throws Exception {
    Pair pair =
        pair(
            Pair.Kind.MARIADB,
            "CREATE TABLE a_notes (id INT PRIMARY KEY, title VARCHAR(20) UNIQUE) ENGINE=Aria",
            "CREATE TABLE b_notes (id INT PRIMARY KEY, title VARCHAR(20) UNIQUE) ENGINE=InnoDB",
            "INSERT INTO a_notes VALUES (1, 'one'), (2, 'two')",
            "INSERT INTO b_notes VALUES (1, 'one'), (2, 'two')");
    for (String table : List.of("a_notes", "b_notes")) {
      pair.on("staging", "DELETE FROM " + table + " WHERE id = 1");
      pair.on("staging", "INSERT INTO " + table + " VALUES (3, 'one'), (4, 'four')");
    }
    String rows = "SELECT * FROM a_notes UNION ALL SELECT * FROM b_notes";
    List<String> before = pair.ask("live", rows);
    Path draft = pair.approvedDraft();
    Refusal refused = catchThrowableOfType(Refusal.class, () -> pair.apply(draft));
    assertThat(refused).hasMessageContaining("a_notes (Aria)").hasMessageContaining("roll back");
    assertThat(pair.apply(draft, true)).isInstanceOf(ApplyOutcome.Applied.class);
    assertThat(pair.ask("live", rows)).isEqualTo(pair.ask("staging", rows));
    refused = catchThrowableOfType(Refusal.class, () -> pair.undo(false));
    assertThat(refused).hasMessageContaining("a_notes (Aria)");
    assertThat(refused.next()).contains("undo with --even-if-no-rollback");
    assertThat(pair.undo(Undoer.Terms.all(false, true)).leftAlone()).isEmpty();
    assertThat(pair.ask("live", rows)).containsExactlyInAnyOrderElementsOf(before);
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void rowsThatReferToEachOtherWithoutAutomaticNumbers(Pair.Kind kind) throws Exception {
    Pair pair =
        pair(
            kind,
            "CREATE TABLE ports (code VARCHAR(9) PRIMARY KEY, twin VARCHAR(9) NULL, FOREIGN KEY (twin) REFERENCES ports (code))",
            "INSERT INTO ports VALUES ('hesk', NULL)");
    pair.on(
        "staging",
        "INSERT INTO ports VALUES ('vorran', NULL), ('lunna', 'vorran')",
        "UPDATE ports SET twin = 'lunna' WHERE code = 'vorran'");
    assertThat(pair.apply(pair.approvedDraft())).isInstanceOf(ApplyOutcome.Applied.class);
    String rows = "SELECT code, twin FROM ports ORDER BY code";
    assertThat(pair.ask("live", rows)).isEqualTo(pair.ask("staging", rows));
  }

  @Test
  void aTableThatATriggerFillsIsNamedWithIt() throws Exception {
    Pair pair =
        pair(
            Pair.Kind.MARIADB,
            "CREATE TABLE pages (id INT PRIMARY KEY, title VARCHAR(20))",
            "CREATE TABLE found (page INT PRIMARY KEY, words VARCHAR(20))",
            "CREATE TRIGGER index_pages AFTER INSERT ON pages FOR EACH ROW INSERT INTO found VALUES (NEW.id, LOWER(NEW.title))");
    pair.on("staging", "INSERT INTO pages VALUES (1, 'Fares')");
    Path draft = pair.approvedDraft();
    Refusal refused = catchThrowableOfType(Refusal.class, () -> pair.apply(draft));
    assertThat(refused)
        .hasMessageContaining("A unique value is taken on live")
        .hasMessageContaining(
            "Table found may be filled by the trigger index_pages (AFTER INSERT) of pages.")
        .hasMessageEndingWith("Everything was rolled back; nothing was changed.");
    assertThat(pair.ask("live", "SELECT * FROM pages")).isEmpty();
  }

  @Test
  void whatACountingTriggerSetsAgainDoesNotKeepTheRestFromBeingTakenBack() throws Exception {
    Pair pair =
        pair(
            Pair.Kind.MARIADB,
            "CREATE TABLE pages (id INT PRIMARY KEY, title VARCHAR(20), version INT NOT NULL DEFAULT 1)",
            "INSERT INTO pages (id, title) VALUES (1, 'Home'), (2, 'Fares')");
    for (String copy : List.of("staging", "live")) {
      pair.on(
          copy,
          "CREATE TRIGGER count_edits BEFORE UPDATE ON pages FOR EACH ROW SET NEW.version = OLD.version + 1");
    }
    pair.on(
        "staging", "DROP TRIGGER count_edits", "UPDATE pages SET title = 'Prices' WHERE id = 2");
    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) pair.apply(pair.approvedDraft());
    assertThat(applied.altered())
        .extracting(Drift::what)
        .containsExactly("the server itself set version");
    UndoOutcome undone = pair.undo(false);
    assertThat(undone.restored()).isEqualTo(1);
    assertThat(undone.leftAlone())
        .extracting(Drift::what)
        .containsExactly("was taken back, but a trigger on live set version again");
    assertThat(pair.ask("live", "SELECT title, version FROM pages ORDER BY id"))
        .containsExactly("Home\t1", "Fares\t3");
  }
}
