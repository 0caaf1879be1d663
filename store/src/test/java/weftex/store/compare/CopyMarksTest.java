package weftex.store.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.store.Refusal;
import weftex.store.apply.Applier;
import weftex.store.capture.Capture;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.engine.CommitGate;
import weftex.store.receipt.Receipts;
import weftex.store.seal.AtRest;
import weftex.store.seal.Keyring;
import weftex.store.testing.Pair;

/** A copy is known by its own ledger, wherever it is and whatever clocks say. */
class CopyMarksTest {
  private static final String LEDGER =
      "SELECT receipt, change_set, kind, written_at, seq FROM weftex_ledger ORDER BY seq";

  @TempDir Path folder;

  private Pair marked(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, Pair.content("pages"));
    for (String copy : List.of("staging", "live")) {
      boolean server = pair.spec(copy) instanceof CopySpec.Server;
      String number =
          server ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT";
      pair.on(
          copy,
          "CREATE TABLE pages (id " + number + ", title VARCHAR(40))",
          "INSERT INTO pages VALUES (1, 'Home'), (2, 'Fares')");
    }
    return pair.mark();
  }

  private static CopyMarks.Standing standing(Pair pair, String copy) throws Exception {
    Capture base = pair.bases().open("test");
    String other = copy.equals("live") ? "staging" : "live";
    return CopyMarks.of(Copy.reach(pair.spec(copy)), other, base).standing();
  }

  /** Gives a copy the ledger of the other, as whoever copies the whole database does. */
  private static void ledgerOf(Pair pair, String from, String into) {
    List<String> entries = pair.ask(from, LEDGER);
    pair.on(
        into,
        "CREATE TABLE IF NOT EXISTS weftex_ledger (receipt VARCHAR(64) NOT NULL PRIMARY KEY, change_set CHAR(64) NOT"
            + " NULL, kind VARCHAR(8) NOT NULL, written_at VARCHAR(40) NOT NULL, seq BIGINT NULL, receipt_sha256"
            + " CHAR(64) NULL)",
        "DELETE FROM weftex_ledger");
    for (String entry : entries) {
      pair.on(
          into,
          "INSERT INTO weftex_ledger (receipt, change_set, kind, written_at, seq) VALUES ('"
              + entry.replace("\t", "', '")
              + "')");
    }
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void aCopyThatWasMadeAnewFromTheOtherIsRefusedUntilItIsMarked(Pair.Kind kind) throws Exception {
    Pair pair = marked(kind);
    pair.on("staging", "INSERT INTO pages VALUES (3, 'Tides')");
    pair.on("live", "INSERT INTO pages VALUES (3, 'Order')");
    pair.apply(pair.approvedDraft());
    assertThat(standing(pair, "staging")).isEqualTo(CopyMarks.Standing.FITS);
    assertThat(Copy.reach(pair.spec("staging")).hasLedger()).as("none is made there").isFalse();
    ledgerOf(pair, "live", "staging");
    assertThat(standing(pair, "staging")).isEqualTo(CopyMarks.Standing.OTHERS);
    assertThat(standing(pair, "live")).isEqualTo(CopyMarks.Standing.FITS);
    assertThat(catchThrowableOfType(Refusal.class, pair::changes))
        .hasMessageContaining("staging was recreated from live since the base was recorded")
        .hasMessageEndingWith("Nothing was changed.")
        .extracting(Refusal::kind)
        .isEqualTo(Refusal.Kind.PROTECTED);

    assertThat(CopyMarks.areOne(Copy.reach(pair.spec("live")), Copy.reach(pair.spec("staging"))))
        .isTrue();
    pair.on("staging", "DELETE FROM pages", "INSERT INTO pages VALUES (1, 'Home'), (2, 'Fares')");
    pair.on("staging", "INSERT INTO pages VALUES (3, 'Order'), (4, 'Tides')");
    pair.mark();
    assertThat(CopyMarks.areOne(Copy.reach(pair.spec("live")), Copy.reach(pair.spec("staging"))))
        .isFalse();
    assertThat(pair.changes()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void anOlderCopyAndAnUnknownOneAreToldApart(Pair.Kind kind) throws Exception {
    Pair pair = marked(kind);
    List<String> first = pair.ask("live", LEDGER);
    pair.mark();
    assertThat(standing(pair, "live")).isEqualTo(CopyMarks.Standing.FITS);
    pair.on(
        "live", "DELETE FROM weftex_ledger WHERE receipt <> '" + first.get(0).split("\t")[0] + "'");
    assertThat(standing(pair, "live")).isEqualTo(CopyMarks.Standing.OLDER);
    pair.bases().back();
    assertThat(standing(pair, "live"))
        .as("the base that belongs to it")
        .isEqualTo(CopyMarks.Standing.FITS);
    pair.on("live", "DROP TABLE weftex_ledger");
    assertThat(standing(pair, "live")).isEqualTo(CopyMarks.Standing.UNKNOWN);
    pair.on("staging", "UPDATE pages SET title = 'Start' WHERE id = 1");
    assertThat(pair.changes()).as("said, and not refused").hasSize(1);
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void anApplyOnAClockThatWentBackBehindTheBaseCounts(Pair.Kind kind) throws Exception {
    Pair pair = marked(kind);
    pair.on("staging", "INSERT INTO pages VALUES (3, 'Tides')");
    pair.on("live", "INSERT INTO pages VALUES (3, 'Order')");
    Clock early = Clock.offset(Clock.systemUTC(), Duration.ofDays(-1));
    Path file = pair.approvedDraft();
    new Applier(
            new Receipts(pair.state().receipts(), early, AtRest.CLEAR),
            new CommitGate(),
            "test",
            "test")
        .apply(
            ChangeSetFile.read(file, Keyring.NONE),
            "test",
            Copy.reach(pair.target()),
            pair::means,
            false,
            done -> {});
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM pages")).containsExactly("4");
    assertThat(pair.changes()).as("the page does not come twice").isEmpty();
  }
}
