package weftex.store.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.compare.Comparison;
import weftex.core.model.SiteModel;
import weftex.store.compare.ComparisonRun;
import weftex.store.testing.Pair;

/**
 * Two keys are equal exactly when the server says so, and rows come in the order in which Weftex
 * compares.
 */
class MariaDbKeysTest {
  @TempDir Path folder;

  @ParameterizedTest
  @ValueSource(
      strings = {
        "utf8mb4_unicode_ci", "utf8mb4_general_ci", "utf8mb4_bin", "utf8mb4_nopad_bin",
            "utf8mb4_uca1400_ai_ci",
        "utf8mb4_uca1400_as_cs", "utf8mb4_unicode_520_nopad_ci", "utf8mb4_swedish_ci",
            "latin1_swedish_ci", "latin1_bin",
        "latin1_german2_ci"
      })
  void keysOfEachCollation(String collation) throws Exception {
    String charset = collation.substring(0, collation.indexOf('_'));
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE k (name VARCHAR(40) CHARACTER SET "
            + charset
            + " COLLATE "
            + collation
            + " PRIMARY KEY, note VARCHAR(20))",
        "INSERT IGNORE INTO k VALUES " + String.join(", ", randomKeys(400)));
    pair.on("staging", "UPDATE k SET note = 'edited' WHERE name LIKE '%b%'");
    pair.on("staging", "DELETE FROM k WHERE name LIKE '%c%'");
    pair.on(
        "staging",
        "INSERT IGNORE INTO k VALUES ('Zeta new', 'added'), ('zz', 'added'), ('ßß', 'added')");
    // The other copy spells some keys in another way that its collation may call equal.
    pair.mark();
    pair.on("live", "UPDATE IGNORE k SET name = UPPER(name) WHERE name LIKE '%d%'");
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM k")).isNotEqualTo(List.of("0"));
    try (ComparisonRun run = pair.compare()) {
      Comparison comparison = run.comparison();
      var tally = comparison.tally(0);
      String rows = pair.ask("staging", "SELECT COUNT(*) FROM k").get(0);
      long seen =
          tally.unchanged() + tally.sourceAdded() + tally.sourceUpdated() + sourceSame(comparison);
      assertThat(seen).isEqualTo(Long.parseLong(rows));
    }
    if (pair.changes().stream().noneMatch(c -> !c.conflicts().isEmpty())) {
      List<String> before = pair.ask("live", "SELECT name, note FROM k ORDER BY BINARY name");
      // Rows that both copies removed are noted, and nothing is made.
      pair.apply(pair.approvedDraft());
      assertThat(pair.ask("live", "SELECT name, note FROM k ORDER BY BINARY name"))
          .isEqualTo(before);
      assertThat(pair.changes()).isEmpty();
    }
  }

  private static long sourceSame(Comparison comparison) throws Exception {
    long same = 0;
    for (long at : comparison.byTargetOnly(0).toArray()) {
      same += comparison.log().read(at).source().isPresent() ? 1 : 0;
    }
    return same;
  }

  private static List<String> randomKeys(int count) {
    String[] parts = {
      "a", "A", "ä", "á", "b", "B", "c", "d", "ss", "ß", "e", "é", " ", "  ", "-", "_", "z", "ö",
      "1", "10", "\\t"
    };
    Random random = new Random(20261125);
    List<String> rows = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      StringBuilder key = new StringBuilder();
      int length = random.nextInt(5);
      for (int j = 0; j < length; j++) {
        key.append(parts[random.nextInt(parts.length)]);
      }
      rows.add("('" + key + "', 'n" + i + "')");
    }
    return rows;
  }

  @Test
  void aKeyInOtherLettersIsTheSameRow() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE k (name VARCHAR(40) PRIMARY KEY, note TEXT) COLLATE utf8mb4_unicode_ci",
        "INSERT INTO k VALUES ('brae', 'x')");
    pair.mark();
    pair.on("staging", "UPDATE k SET name = 'Bráe', note = 'y'");
    assertThat(pair.changes()).hasSize(1);
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT * FROM k")).containsExactly("Bráe\ty");
    pair.undo(false);
    assertThat(pair.ask("live", "SELECT * FROM k")).containsExactly("brae\tx");
  }

  @Test
  void compoundKeysOfMixedTypes() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE k (day DATE, code VARCHAR(5), no BIGINT UNSIGNED, raw VARBINARY(4), note TEXT, PRIMARY KEY (day, code, no, raw))",
        "INSERT INTO k SELECT '2026-01-01' + INTERVAL seq % 7 DAY, CHAR(65 + seq % 5 USING utf8mb4), IF(seq % 3, seq, 18446744073709551615 - seq),"
            + " UNHEX(LPAD(HEX(seq), 4, '0')), 'n' FROM seq_1_to_300");
    pair.mark();
    pair.on(
        "staging",
        "UPDATE k SET note = 'edited' WHERE no % 10 = 0",
        "DELETE FROM k WHERE no % 10 = 1");
    pair.apply(pair.approvedDraft());
    String all = "SELECT day, code, no, HEX(raw), note FROM k ORDER BY 1, 2, 3, 4";
    assertThat(pair.ask("live", all)).isEqualTo(pair.ask("staging", all));
    pair.undo(false);
    assertThat(pair.ask("live", "SELECT COUNT(*), SUM(note = 'n') FROM k"))
        .containsExactly("300\t300");
  }

  @Test
  void tablesWithoutAKeyOnlyGainAndLoseRows() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, Pair.content("k"));
    pair.both(
        "CREATE TABLE k (word VARCHAR(20), price DECIMAL(6,2), weight DOUBLE, at DATETIME)",
        "INSERT INTO k VALUES ('tide', 1.50, 0.1, NULL), ('tide', 1.50, 0.1, NULL), ('Tide', 1.50, 0.1, NULL), ('wind', NULL, 1e100, '2026-01-01')");
    pair.mark();
    pair.on(
        "staging",
        "DELETE FROM k WHERE word = BINARY 'tide' LIMIT 1",
        "UPDATE k SET price = 2 WHERE word = 'wind'",
        "INSERT INTO k VALUES ('ebb', 3, 4, '0001-01-01')");
    pair.on("live", "INSERT INTO k VALUES ('own', 9, 9, NULL)");
    pair.apply(pair.approvedDraft());
    String all = "SELECT word, price, weight, at FROM k ORDER BY CAST(word AS BINARY)";
    assertThat(pair.ask("live", all + ", 2"))
        .containsExactly(
            "Tide\t1.50\t0.1\tNULL",
            "ebb\t3.00\t4\t0001-01-01 00:00:00",
            "own\t9.00\t9\tNULL",
            "tide\t1.50\t0.1\tNULL",
            "wind\t2.00\t1e100\t2026-01-01 00:00:00");
    pair.undo(false);
    assertThat(
            pair.ask(
                "live", "SELECT COUNT(*), SUM(word = BINARY 'tide'), SUM(price IS NULL) FROM k"))
        .containsExactly("5\t2\t1");
  }
}
