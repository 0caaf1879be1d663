package weftex.store.copy;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;
import weftex.core.compare.RangeDigests;
import weftex.core.compare.Tally;
import weftex.core.model.SiteModel;
import weftex.core.row.Table;
import weftex.store.compare.ComparisonRun;
import weftex.store.rows.Snapshot;
import weftex.store.testing.MariaDbServer;
import weftex.store.testing.Pair;

/** The server and this program digest a row in the same way, and what differs is found by it. */
@Isolated
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
    RangeDigests base = pair.bases().open("test").digests(table, 0).orElseThrow();
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
  void theServersDigestsAreThoseOfTheBaseForVeryLargeKeysToo() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE v (id BIGINT PRIMARY KEY, a INT NULL, title VARCHAR(250) NULL)",
        "INSERT INTO v SELECT seq * 3000000000000, IF(seq % 7, -seq, NULL), CONCAT(REPEAT('title ', 40), seq) FROM seq_0_to_3000");
    pair.mark();
    pair.on("staging", "UPDATE v SET title = '~NULL~' WHERE id = 3000000000000");
    pair.on("staging", "UPDATE v SET title = NULL WHERE id = 30000000000000");
    assertThat(found(pair, 0)).containsExactly(0L, 2L, 0L, 0L, 0L, 0L, 2999L);
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
    assertThat(found(pair, 0)).containsExactly(2L, 5L, 3L, 1L, 2L, 1L, 5000L - 5 - 3 - 2 - 1);
  }

  /**
   * What a comparison counts in a table: the source's additions, updates, removals, the target's,
   * and rows without a difference. Digests and reading every row must agree, and what the server
   * sends shows that digests were used.
   */
  private static List<Long> found(Pair pair, int table) throws Exception {
    long before = bytesSent();
    List<Long> byDigests = counts(pair, table, false);
    long between = bytesSent();
    List<Long> byRows = counts(pair, table, true);
    long after = bytesSent();
    assertThat(byDigests).isEqualTo(byRows);
    assertThat(between - before).as("bytes by digests").isLessThan((after - between) * 3 / 4);
    return byDigests;
  }

  private static List<Long> counts(Pair pair, int table, boolean thorough) throws Exception {
    try (ComparisonRun run = pair.compare(thorough)) {
      Tally tally = run.comparison().tally(table);
      return List.of(
          tally.sourceAdded(),
          tally.sourceUpdated(),
          tally.sourceRemoved(),
          tally.targetAdded(),
          tally.targetUpdated(),
          tally.targetRemoved(),
          tally.unchanged());
    }
  }

  private static long bytesSent() {
    String said = MariaDbServer.get().sql("", "SHOW GLOBAL STATUS LIKE 'Bytes_sent'");
    return Long.parseLong(said.strip().split("\t")[1]);
  }

  /** Every such pair of edits once went unseen: a check of seven small rows was linear. */
  @Test
  void equalEditsOfTwoRowsDoNotCancelEachOther() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE flags (id INT AUTO_INCREMENT PRIMARY KEY, enabled TINYINT(1))",
        "INSERT INTO flags (enabled) VALUES (0), (0), (0), (0), (0), (0), (0)");
    pair.mark();
    for (int one = 1; one <= 7; one++) {
      for (int other = one + 1; other <= 7; other++) {
        pair.on(
            "staging",
            "UPDATE flags SET enabled = 0",
            "UPDATE flags SET enabled = 1 WHERE id IN (" + one + ", " + other + ")");
        assertThat(counts(pair, 0, false))
            .as("rows " + one + " and " + other)
            .containsExactly(0L, 2L, 0L, 0L, 0L, 0L, 5L);
      }
    }
  }

  @Test
  void whatManyRowsHaveInCommonIsFoundInEachOfThem() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE sailings (id INT AUTO_INCREMENT PRIMARY KEY, place INT NOT NULL, sails DATETIME NOT NULL, enabled TINYINT(1),"
            + " title VARCHAR(40) NULL, route BIGINT UNSIGNED NOT NULL, price DECIMAL(8,2) NOT NULL)",
        "INSERT INTO sailings SELECT seq, seq, '2026-11-01 06:30:00', 0, 'Hesk to Vorran', 7, 12.5 FROM seq_1_to_60000");
    pair.mark();
    String few = " WHERE id BETWEEN 30000 AND 39499";
    for (String edit :
        List.of(
            "sails = '2026-11-02 06:30:00'",
            "enabled = 1",
            "place = place + 1",
            "title = NULL",
            "route = 8",
            "price = price + 1")) {
      pair.on("staging", "UPDATE sailings SET " + edit + few);
      assertThat(found(pair, 0)).as(edit).containsExactly(0L, 9500L, 0L, 0L, 0L, 0L, 50500L);
      pair.on(
          "staging",
          "UPDATE sailings SET place = id, sails = '2026-11-01 06:30:00', enabled = 0, title = 'Hesk to Vorran', route = 7, price = 12.5");
    }
  }

  @Test
  void rowsThatChangePlacesAreFound() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE menu (id INT AUTO_INCREMENT PRIMARY KEY, place INT NOT NULL, title VARCHAR(40) NOT NULL)",
        "INSERT INTO menu SELECT seq, seq, CONCAT('Entry ', seq) FROM seq_1_to_20000");
    pair.mark();
    for (int other = 2; other <= 9; other++) {
      pair.on(
          "staging",
          "UPDATE menu SET place = id, title = CONCAT('Entry ', id) WHERE id < 100",
          "UPDATE menu SET place = IF(id = 1, " + other + ", 1) WHERE id IN (1, " + other + ")");
      pair.on(
          "live",
          "UPDATE menu SET place = id, title = CONCAT('Entry ', id) WHERE id < 100",
          "UPDATE menu a, menu b SET a.title = CONCAT('Entry ', 100 - a.id) WHERE a.id IN (40, 60) AND b.id = a.id");
      assertThat(found(pair, 0))
          .as("1 and " + other)
          .containsExactly(0L, 2L, 0L, 0L, 2L, 0L, 19996L);
    }
  }

  @Test
  void textThatRunsFromOneColumnIntoTheNextIsAnEdit() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE w (id INT AUTO_INCREMENT PRIMARY KEY, a VARCHAR(20) NULL, b VARCHAR(20) NULL)",
        "INSERT INTO w SELECT seq, CONCAT('a', CHAR(0), 'b'), 'c' FROM seq_1_to_9000");
    pair.mark();
    pair.on(
        "staging",
        "UPDATE w SET a = 'a', b = CONCAT('b', CHAR(0), 'c') WHERE id = 500",
        "UPDATE w SET a = NULL, b = 'c' WHERE id = 700");
    assertThat(found(pair, 0)).containsExactly(0L, 2L, 0L, 0L, 0L, 0L, 8998L);
  }
}
