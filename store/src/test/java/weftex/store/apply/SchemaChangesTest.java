package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.DecisionLine;
import weftex.core.model.SiteModel;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.compare.ComparisonRun;
import weftex.store.copy.Copy;
import weftex.store.seal.Keyring;
import weftex.store.testing.Pair;

/** New tables and columns of the source are made on the target, and taken back by an undo. */
class SchemaChangesTest {
  private static final String MODEL =
      "model: test\ntables:\n  pages: {identity: [title]}\n  visits: {role: noise}\n  orders: {role: live}\n";

  @TempDir Path folder;

  private Pair site(Pair.Kind kind) throws Exception {
    return site(kind, "");
  }

  /**
   * Pages with two rows on both copies.
   *
   * @param engine of tables on a server, such as {@code ENGINE=MyISAM}
   */
  private Pair site(Pair.Kind kind, String engine) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    for (String copy : List.of("staging", "live")) {
      pair.on(
          copy,
          "CREATE TABLE pages (id " + number(kind, copy) + ", title VARCHAR(50) NOT NULL)",
          "INSERT INTO pages VALUES (1, 'Home'), (2, 'Fares')");
    }
    pair.mark();
    pair.on(
        "staging",
        "CREATE TABLE offers (id "
            + number(kind, "staging")
            + ", page_id BIGINT NOT NULL, title VARCHAR(50) DEFAULT 'a, b',"
            + " FOREIGN KEY (page_id) REFERENCES pages (id)) "
            + (kind == Pair.Kind.MARIADB ? engine : ""),
        "CREATE INDEX offers_by_title ON offers (title)",
        "CREATE TABLE visits (id INT NOT NULL PRIMARY KEY)",
        "CREATE TABLE orders (id INT NOT NULL PRIMARY KEY)",
        "INSERT INTO orders VALUES (1)",
        "ALTER TABLE pages ADD COLUMN fee DECIMAL(6,2) NOT NULL DEFAULT 0",
        "ALTER TABLE pages ADD COLUMN teaser VARCHAR(40) DEFAULT 'None yet'",
        "CREATE INDEX pages_by_teaser ON pages (teaser, title)",
        "INSERT INTO pages VALUES (3, 'Winter', 1.5, 'Snow')",
        "UPDATE pages SET fee = 2.5 WHERE id = 2",
        "INSERT INTO offers VALUES (1, 3, 'Return'), (2, 1, NULL)");
    pair.on("live", "INSERT INTO pages VALUES (3, 'Storm')");
    return pair;
  }

  private static String number(Pair.Kind kind, String copy) {
    boolean server = kind != Pair.Kind.SQLITE && (copy.equals("live") || kind == Pair.Kind.MARIADB);
    return server ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT";
  }

  private static List<String> plan(Pair pair) throws Exception {
    try (ComparisonRun run = pair.compare()) {
      return run.planner().choose(weftex.core.select.Selection.CONTENT).schema().stream()
          .map(change -> change.id() + " " + change.item().words())
          .toList();
    }
  }

  private static void decide(Path file, Answer answer, Integer... ids) throws Exception {
    Decision decision = Decision.of(List.of(ids), Optional.empty(), answer, "test", "now", "");
    Files.write(file, DecisionLine.of(decision), java.nio.file.StandardOpenOption.APPEND);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void areMadeBeforeTheRowsAndTakenBack(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    // Noise stays out; a table of orders comes, its rows don't.
    assertThat(plan(pair))
        .containsExactly(
            "1 column 'pages.fee'",
            "2 column 'pages.teaser'",
            "3 table 'offers'",
            "4 table 'orders'");
    assertThat(pair.changes()).extracting(RowChange::id).containsExactly(5, 6, 7, 8);

    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) pair.apply(pair.approvedDraft());
    assertThat(applied.schema()).extracting(SchemaChange::table).contains("offers", "orders");
    assertThat(pair.ask("live", "SELECT id, title, fee + 0, teaser FROM pages ORDER BY id"))
        .map(line -> line.replaceAll("(\\.\\d*?)0+(\\t)", "$1$2").replace(".\t", "\t"))
        .containsExactly(
            "1\tHome\t0\tNone yet",
            "2\tFares\t2.5\tNone yet",
            "3\tStorm\t0\tNone yet",
            "4\tWinter\t1.5\tSnow");
    assertThat(pair.ask("live", "SELECT page_id, title FROM offers ORDER BY id"))
        .containsExactly("4\tReturn", "1\tNULL");
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM orders")).containsExactly("0");
    assertThat(pair.changes()).as("nothing is left to do").isEmpty();
    assertThat(plan(pair)).isEmpty();

    UndoOutcome undone = pair.undo(false);
    assertThat(undone.leftAlone()).isEmpty();
    assertThat(undone.takenAway())
        .extracting(change -> change.item().words())
        .containsExactly(
            "table 'orders'", "table 'offers'", "column 'pages.teaser'", "column 'pages.fee'");
    assertThat(pair.ask("live", "SELECT * FROM pages ORDER BY id"))
        .containsExactly("1\tHome", "2\tFares", "3\tStorm");
    assertThat(plan(pair)).hasSize(4);
    assertThat(pair.apply(pair.approvedDraft())).isInstanceOf(ApplyOutcome.Applied.class);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatSomebodyUsesStaysWhenItIsUndone(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.apply(pair.approvedDraft());
    pair.on(
        "live",
        "INSERT INTO offers VALUES (77, 1, 'Of the office')",
        "UPDATE pages SET teaser = 'none yet' WHERE id = 3");
    UndoOutcome undone = pair.undo(false);
    assertThat(undone.leftAlone())
        .extracting(drift -> drift.table() + " " + drift.key() + " " + drift.what())
        .containsExactly(
            "offers  has rows on live that came in since, so the table stays",
            "pages teaser has values on live that came in since, so the column stays");
    assertThat(pair.ask("live", "SELECT title FROM offers")).containsExactly("Of the office");
    assertThat(pair.ask("live", "SELECT teaser FROM pages WHERE id = 3"))
        .containsExactly("none yet");

    pair.on("live", "DELETE FROM offers", "UPDATE pages SET teaser = 'None yet' WHERE id = 3");
    assertThat(pair.undo(false).takenAway()).hasSize(2);
    assertThat(pair.ask("live", "SELECT * FROM pages WHERE id = 3")).containsExactly("3\tStorm");
  }

  /** Two people undo at once: the second one's turn comes when the tables are gone already. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void theSecondOfTwoUndosFindsNothingLeft(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.apply(pair.approvedDraft());
    Copy early = Copy.reach(pair.target());
    assertThat(pair.undo(false).takenAway()).hasSize(4);
    UndoOutcome second = pair.undo(early, Undoer.Terms.all(false, false));
    assertThat(second.receipt()).isEmpty();
    assertThat(second.leftAlone()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatIsSkippedTakesItsRowsAndValuesAlong(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    Path file = pair.draft();
    decide(file, Answer.SKIP, 2, 3, 4);
    pair.approve(file);
    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) pair.apply(file);
    assertThat(applied.schema())
        .extracting(change -> change.item().words())
        .containsExactly("column 'pages.fee'");
    assertThat(applied.adds()).isEqualTo(1);
    assertThat(pair.ask("live", "SELECT id, title FROM pages WHERE fee > 1 ORDER BY id"))
        .containsExactly("2\tFares", "4\tWinter");
    assertThat(pair.undo(false).takenAway()).hasSize(1);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aFailureLeavesTheTargetAsItWas(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    Path file = pair.approvedDraft();
    pair.on("live", "UPDATE pages SET title = 'Prices' WHERE id = 2");
    assertThat(pair.apply(file)).isInstanceOf(ApplyOutcome.Drifted.class);
    assertThat(pair.ask("live", "SELECT * FROM pages WHERE id = 2")).containsExactly("2\tPrices");
    assertThat(plan(pair)).hasSize(4);

    Path second = pair.approvedDraft();
    pair.on("live", "CREATE TABLE orders (id INT NOT NULL PRIMARY KEY)");
    assertThatThrownBy(() -> pair.apply(second))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("live has table 'orders' by now");
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM orders"))
        .as("what others made is not taken away")
        .containsExactly("0");
    assertThat(plan(pair)).hasSize(3);
    assertThat(pair.receipts().all()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void statementsOfAFileAreNeverRun(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    Path file = pair.draft();
    List<String> lines = Files.readAllLines(file);
    SchemaChange altered =
        new SchemaChange(1, "pages", new SchemaChange.Made.Named(Optional.of("fee"), List.of()));
    java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
    ChangeSetWriter writer =
        new ChangeSetWriter(out, ChangeSetFile.read(file, Keyring.NONE).contents().header());
    writer.write(altered);
    writer.finish();
    Files.write(file, out.toByteArray());
    assertThat(lines).hasSizeGreaterThan(1);
    pair.approve(file);
    assertThatThrownBy(() -> pair.apply(file))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("statements of a file are not run");
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM pages")).containsExactly("3");
  }

  /** It may be older than the base, which leaves noise out, so nothing can be told of its rows. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aTableOfBothThatTheBaseLacksIsNotTakenForNew(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on("live", "CREATE TABLE orders (id INT NOT NULL PRIMARY KEY)");
    assertThat(plan(pair)).doesNotContain("4 table 'orders'");
    try (ComparisonRun run = pair.compare()) {
      assertThat(run.tables().pairing().incomparable()).containsKey("orders");
    }
  }

  @ParameterizedTest
  @EnumSource(names = "MIXED")
  void areOnlyReportedBetweenDatabasesOfTwoKinds(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    try (ComparisonRun run = pair.compare()) {
      assertThat(run.tables().growth().changes()).isEmpty();
      assertThat(run.tables().growth().notMade())
          .containsKeys("offers", "orders", "pages.fee", "pages.teaser");
    }
    assertThat(pair.changes()).extracting(RowChange::table).containsExactly("pages");
  }

  @ParameterizedTest
  @EnumSource(names = "MARIADB")
  void aTableWhoseEngineCantRollBackIsRefusedAndTakenAway(Pair.Kind kind) throws Exception {
    Pair pair = site(kind, "ENGINE=MyISAM");
    Path file = pair.approvedDraft();
    assertThatThrownBy(() -> pair.apply(file))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("can't roll back");
    assertThat(plan(pair)).hasSize(4);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aTableStaysAwayWithTheOneThatItsForeignKeyNeeds(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "CREATE TABLE trips (id INTEGER PRIMARY KEY, twice INTEGER GENERATED ALWAYS AS (id * 2))",
        "CREATE TABLE stops (id INTEGER PRIMARY KEY, trip_id INTEGER NOT NULL,"
            + " FOREIGN KEY (trip_id) REFERENCES trips (id))",
        "INSERT INTO trips (id) VALUES (1)",
        "INSERT INTO stops VALUES (1, 1)");
    try (ComparisonRun run = pair.compare()) {
      assertThat(run.tables().growth().notMade().get("trips")).contains("to be made by hand");
      assertThat(run.tables().growth().notMade().get("stops"))
          .isEqualTo(
              "only on staging, and a foreign key of it leads to trips, which live would not have by then");
    }
    assertThat(pair.changes()).extracting(RowChange::table).doesNotContain("stops", "trips");
    assertThat(pair.apply(pair.approvedDraft())).isInstanceOf(ApplyOutcome.Applied.class);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aSkippedTableTakesAlongTheOnesThatNeedIt(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "CREATE TABLE trips (id INTEGER PRIMARY KEY)",
        "CREATE TABLE stops (id INTEGER PRIMARY KEY, trip_id INTEGER NOT NULL,"
            + " FOREIGN KEY (trip_id) REFERENCES trips (id))",
        "INSERT INTO trips VALUES (1)",
        "INSERT INTO stops VALUES (1, 1)");
    int trips = plan(pair).indexOf("5 table 'trips'") + 1;
    Path file = pair.draft();
    decide(file, Answer.SKIP, trips, 11);
    pair.approve(file);
    assertThat(((ApplyOutcome.Applied) pair.apply(file)).schema())
        .extracting(SchemaChange::table)
        .containsExactly("pages", "pages", "offers", "orders");
    assertThat(plan(pair)).containsExactly("1 table 'trips'", "2 table 'stops'");
  }
}
