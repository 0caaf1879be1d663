package weftex.store.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.model.SiteModel;
import weftex.store.apply.ApplyOutcome;
import weftex.store.engine.Drift;
import weftex.store.testing.Pair;

/**
 * Bytes survive: each kind of column makes the whole way on a real server, and the target is then
 * read with the database's own client.
 */
class MariaDbValuesTest {
  @TempDir Path folder;

  private static final String ANY_DATE = "SET sql_mode=''";

  /** A type, a value before, and one after. */
  private static final List<String> VALUES =
      List.of(
          "BIGINT UNSIGNED | 1 | 18446744073709551615",
          "BIGINT | 0 | -9223372036854775808",
          "TINYINT(1) | 1 | 7",
          "TINYINT UNSIGNED | 0 | 255",
          "YEAR | 2026 | 1901",
          "BIT(1) | b'0' | b'1'",
          "BIT(20) | b'0' | b'10000000000000000001'",
          "DECIMAL(20,6) | 1.5 | -12345678901234.100000",
          "FLOAT | 0.1 | 16777217.25",
          "FLOAT | 1.17549e-38 | 3.40282e38",
          "DOUBLE | 0.1 | 0.30000000000000004",
          "DATE | '2026-01-01' | '0000-00-00'",
          "DATE | '2026-01-01' | '2026-00-00'",
          "DATE | '2026-01-01' | '2026-02-31'",
          "DATETIME | '2026-01-01 10:00:00' | '0000-00-00 00:00:00'",
          "DATETIME(6) | '2026-01-01 10:00:00' | '9999-12-31 23:59:59.999999'",
          "TIME(3) | '10:00:00' | '-838:59:58.125'",
          "TIMESTAMP NULL | NULL | '2026-03-29 02:30:00'",
          "TIMESTAMP(6) NULL | NULL | '2026-10-25 02:30:00.000001'",
          "VARCHAR(50) | 'a' | 'trailing  '",
          "VARCHAR(50) | NULL | ''",
          "VARCHAR(50) | '' | NULL",
          "CHAR(10) | 'a' | 'b'",
          "TEXT CHARACTER SET utf8mb4 | 'x' | 'lantern 🏮 and 𝕏'",
          "TEXT CHARACTER SET latin1 | 'x' | x'C3A9818D8F909DFF00'",
          "TEXT CHARACTER SET cp1251 | 'x' | x'98C0FF'",
          "TEXT CHARACTER SET ucs2 | 'x' | 'harbour é'",
          "VARBINARY(20) | '' | x'00FF80'",
          "BINARY(4) | 'abcd' | x'00000000'",
          "BLOB | NULL | x'DEADBEEF00'",
          "ENUM('brae','hesk','') | 'brae' | ''",
          "SET('mon','tue','wed') | '' | 'mon,wed'",
          "JSON | '{}' | '{\"a\": 1,   \"b\": \"\\\\u00e9\"}'",
          "UUID | NULL | '123e4567-e89b-12d3-a456-426655440000'",
          "INET6 | NULL | '2001:db8::ff00:42:8329'",
          "POINT | ST_GeomFromText('POINT(1 2)') | ST_GeomFromText('POINT(59.9 10.7)')");

  /** One of these in a table of its own. */
  private record Each(String table, String type, String before, String after) {
    private static Each of(int number) {
      String[] words = VALUES.get(number).split(" \\| ", -1);
      return new Each("v" + number, words[0], words[1], words[2]);
    }

    private List<String> bytes(Pair pair, String copy) throws Exception {
      return pair.ask(
          copy,
          "SELECT id, HEX(CAST(c AS BINARY)), c IS NULL, other FROM " + table + " ORDER BY id");
    }

    @Override
    public String toString() {
      return type + ": " + before + " becomes " + after;
    }
  }

  /** What one copy holds of each. */
  private static Map<Each, List<String>> bytes(Pair pair, String copy, List<Each> all)
      throws Exception {
    Map<Each, List<String>> bytes = new LinkedHashMap<>();
    for (Each each : all) {
      bytes.put(each, each.bytes(pair, copy));
    }
    return bytes;
  }

  @Test
  void aValueOfEachTypeArrivesAsItIs() throws Exception {
    List<Each> all = IntStream.range(0, VALUES.size()).mapToObj(Each::of).toList();
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    List<String> made = new ArrayList<>(List.of(ANY_DATE, "SET time_zone='+00:00'"));
    List<String> edited = new ArrayList<>(made);
    for (Each each : all) {
      made.add(
          "CREATE TABLE %s (id INT AUTO_INCREMENT PRIMARY KEY, c %s, other VARCHAR(9)) ENGINE=InnoDB"
              .formatted(each.table(), each.type()));
      made.add("INSERT INTO %s VALUES (1, %s, 'x')".formatted(each.table(), each.before()));
      edited.add("UPDATE %s SET c = %s WHERE id = 1".formatted(each.table(), each.after()));
      edited.add("INSERT INTO %s VALUES (2, %s, 'added')".formatted(each.table(), each.after()));
    }
    pair.both(made.toArray(String[]::new));
    pair.mark();
    pair.on("staging", edited.toArray(String[]::new));
    Map<Each, List<String>> meant = bytes(pair, "staging", all);
    Map<Each, List<String>> was = bytes(pair, "live", all);
    assertThat(was).allSatisfy((each, bytes) -> assertThat(bytes).isNotEqualTo(meant.get(each)));

    assertThat(pair.apply(pair.approvedDraft())).isInstanceOf(ApplyOutcome.Applied.class);
    assertThat(bytes(pair, "live", all)).isEqualTo(meant);
    assertThat(pair.changes()).isEmpty();

    pair.undo(false);
    assertThat(bytes(pair, "live", all)).isEqualTo(was);
  }

  @Test
  @Tag("full")
  void aRowOfSixteenMegabytesArrives() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE v (id INT AUTO_INCREMENT PRIMARY KEY, c LONGTEXT)",
        "INSERT INTO v VALUES (1, 'x')");
    pair.mark();
    pair.on(
        "staging",
        "UPDATE v SET c = CONCAT(REPEAT('0123456789abcdef', 1048576), 'é') WHERE id = 1");
    String sum = "SELECT LENGTH(c), MD5(c) FROM v";
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", sum)).isEqualTo(pair.ask("staging", sum));
    pair.undo(false);
    assertThat(pair.ask("live", "SELECT c FROM v")).containsExactly("x");
  }

  @Test
  void generatedColumnsAreNeverWrittenAndTouchedOnesAreToldToStay() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE v (id INT AUTO_INCREMENT PRIMARY KEY, a INT, b INT AS (a * 2) STORED, c INT AS (a + 1) VIRTUAL,"
            + " seen TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP)",
        "INSERT INTO v (id, a, seen) VALUES (1, 1, '2026-01-01 10:00:00')");
    pair.mark();
    pair.on("staging", "UPDATE v SET a = 5, seen = '2026-01-01 10:00:00' WHERE id = 1");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT a, b, c, seen FROM v"))
        .containsExactly("5\t10\t6\t2026-01-01 10:00:00");
    pair.undo(false);
    assertThat(pair.ask("live", "SELECT a, b, c, seen FROM v"))
        .containsExactly("1\t2\t2\t2026-01-01 10:00:00");
  }

  @Test
  void textsInTwoCharacterSetsAreTheSameText() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.on(
        "staging",
        "CREATE TABLE v (id INT AUTO_INCREMENT PRIMARY KEY, c TEXT CHARACTER SET utf8mb4)");
    pair.on(
        "live", "CREATE TABLE v (id INT AUTO_INCREMENT PRIMARY KEY, c TEXT CHARACTER SET latin1)");
    pair.both("INSERT INTO v VALUES (1, 'Café'), (2, 'x')");
    pair.mark();
    assertThat(pair.changes()).isEmpty();
    pair.on("staging", "UPDATE v SET c = 'Brücke' WHERE id = 2");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT HEX(c) FROM v WHERE id = 2"))
        .containsExactly("4272FC636B65");
  }

  private Pair pageWithLongBody() throws Exception {
    Pair pair = Pair.create(Pair.Kind.MARIADB, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE v (id INT AUTO_INCREMENT PRIMARY KEY, title VARCHAR(50), body LONGTEXT, old TEXT CHARACTER SET latin1, raw LONGBLOB)",
        "INSERT INTO v VALUES (1, 'one', REPEAT('é🏮', 2000), REPEAT('é', 2000), REPEAT(x'00FF', 2000))");
    return pair.mark();
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource({
    "body, CONCAT(body; '.')",
    "old, CONCAT(old; '.')",
    "raw, CONCAT(raw; x'00')",
    "body, NULL",
    "body, REPEAT('n'; 5)"
  })
  void aLongValueThatAChangeLeavesAloneIsWatchedToo(String column, String edited) throws Exception {
    Pair pair = pageWithLongBody();
    pair.on("staging", "UPDATE v SET title = 'two' WHERE id = 1");
    Path draft = pair.approvedDraft();
    pair.on("live", "UPDATE v SET " + column + " = " + edited.replace(';', ',') + " WHERE id = 1");
    ApplyOutcome.Drifted drifted = (ApplyOutcome.Drifted) pair.apply(draft);
    assertThat(drifted.drifts())
        .extracting(Drift::what)
        .containsExactly(column + " was edited on live since");
    assertThat(pair.ask("live", "SELECT title FROM v")).containsExactly("one");
  }

  @Test
  void longValuesThatAreReplacedOrRemovedComeBackWhole() throws Exception {
    Pair pair = pageWithLongBody();
    pair.both("INSERT INTO v (id, body) VALUES (2, REPEAT('removed ', 1000))");
    pair.mark();
    String all = "SELECT id, title, MD5(body), MD5(old), MD5(raw) FROM v ORDER BY id";
    List<String> before = pair.ask("live", all);
    pair.on(
        "staging",
        "UPDATE v SET body = REPEAT('new ', 3000), raw = REPEAT(x'01', 9000) WHERE id = 1",
        "DELETE FROM v WHERE id = 2",
        "INSERT INTO v (id, body) VALUES (3, REPEAT('added ', 1000))");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", all)).isEqualTo(pair.ask("staging", all));
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(pair.ask("live", all)).isEqualTo(before);
  }
}
