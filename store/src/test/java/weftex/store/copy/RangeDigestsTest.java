package weftex.store.copy;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.compare.RangeDigests;
import weftex.core.compare.Tally;
import weftex.core.row.Table;
import weftex.core.site.SiteModel;
import weftex.store.capture.Capture;
import weftex.store.compare.ComparisonRun;
import weftex.store.testing.Pair;

/** The server and this program digest a row in the same way, and what differs is found by it. */
class RangeDigestsTest {
  @TempDir Path folder;

  private Pair site() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE v (id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY, a INT NULL, price DECIMAL(8,2), title VARCHAR(50) NULL, body LONGTEXT,"
            + " raw BLOB NULL, at DATETIME(3) NULL, day DATE, mood ENUM('calm','rough'))",
        "INSERT INTO v SELECT seq * 3, IF(seq % 7, seq, NULL), seq / 3, IF(seq % 5, CONCAT('title ', seq, ' é🏮'), NULL), REPEAT('x', seq % 300),"
            + " IF(seq % 4, UNHEX(MD5(seq)), NULL), '2026-01-01' + INTERVAL seq * 1001 MICROSECOND, '2026-01-01' + INTERVAL seq % 300 DAY, 1 + seq % 2"
            + " FROM seq_1_to_5000");
    return pair.mark();
  }

  @Test
  void theServersDigestsAreThoseOfTheBase() throws Exception {
    Pair pair = site();
    Copy live = Copy.reach(pair.spec("live"));
    Pairing pairing = Pairing.of(Copy.reach(pair.spec("staging")), live);
    Table table = pairing.shared().get(0).target().table();
    RangeDigests base = Capture.open(pair.state().base(), "test").digests(table, 0).orElseThrow();
    try (Snapshot snapshot = live.snapshot(pairing.targetLayouts())) {
      Optional<RangeDigests> now = snapshot.digests(table, base.width());
      assertThat(now).isPresent();
      assertThat(base.size()).isEqualTo(now.get().size()).isGreaterThan(200);
      for (int i = 0; i < base.size(); i++) {
        assertThat(List.of(base.range(i), base.rows(i), base.digest(i)))
            .containsExactly(now.get().range(i), now.get().rows(i), now.get().digest(i));
      }
    }
  }

  @Test
  void everyEditAdditionAndRemovalIsFound() throws Exception {
    Pair pair = site();
    pair.on(
        "staging",
        "UPDATE v SET title = CONCAT(title, '!') WHERE id IN (3, 7503, 14997)",
        "UPDATE v SET a = NULL WHERE id = 24",
        "UPDATE v SET raw = '' WHERE id = 12",
        "DELETE FROM v WHERE id IN (300, 303, 9999)",
        "INSERT INTO v (id, day, mood, body) VALUES (301, '2026-01-01', 1, 'between'), (99999, '2026-01-01', 1, 'far')");
    pair.on(
        "live",
        "UPDATE v SET price = 1 WHERE id IN (6, 9000)",
        "DELETE FROM v WHERE id = 600",
        "INSERT INTO v (id, day, mood, body) VALUES (20000, '2026-01-01', 1, 'own')");
    try (ComparisonRun run = pair.compare()) {
      Tally tally = run.comparison().tally(0);
      assertThat(
              List.of(
                  tally.sourceAdded(),
                  tally.sourceUpdated(),
                  tally.sourceRemoved(),
                  tally.targetAdded(),
                  tally.targetUpdated(),
                  tally.targetRemoved()))
          .containsExactly(2L, 5L, 3L, 1L, 2L, 1L);
      assertThat(tally.unchanged()).isEqualTo(5000 - 5 - 3 - 2 - 1);
    }
  }

  @Test
  void equalEditsOfTwoRowsOfARangeDoNotCancelEachOther() throws Exception {
    Pair pair = site();
    pair.both(
        "CREATE TABLE w (id INT AUTO_INCREMENT PRIMARY KEY, flag CHAR(1), text VARCHAR(20) NOT NULL)",
        "INSERT INTO w SELECT seq, '0', 'same' FROM seq_1_to_6000");
    pair.mark();
    for (int id = 1000; id < 1060; id += 2) {
      pair.on(
          "staging",
          "UPDATE w SET flag = '0'",
          "UPDATE w SET flag = '1' WHERE id IN (" + id + ", " + (id + 1) + ")");
      try (ComparisonRun run = pair.compare()) {
        assertThat(run.comparison().tally(1).sourceUpdated()).as("rows " + id).isEqualTo(2);
      }
    }
  }

  @Test
  void textThatRunsFromOneColumnIntoTheNextIsAnEdit() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE w (id INT AUTO_INCREMENT PRIMARY KEY, a VARCHAR(20) NULL, b VARCHAR(20) NULL)",
        "INSERT INTO w SELECT seq, CONCAT('a', CHAR(0), 'b'), 'c' FROM seq_1_to_1000");
    pair.mark();
    pair.on(
        "staging",
        "UPDATE w SET a = 'a', b = CONCAT('b', CHAR(0), 'c') WHERE id = 500",
        "UPDATE w SET a = NULL, b = 'c' WHERE id = 700");
    try (ComparisonRun run = pair.compare()) {
      assertThat(run.comparison().tally(0).sourceUpdated()).isEqualTo(2);
    }
  }
}
