package weftex.store.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.schema.TableShape;
import weftex.store.mariadb.MariaDbSchema;
import weftex.store.sqlite.SqliteSchema;

class TableDefinitionTest {
  private static final UnaryOperator<String> NAMES = name -> name.replaceFirst("^wp_", "");
  private static final String SERVER =
      """
      CREATE TABLE `wp_offers` (
        `id` bigint(20) unsigned NOT NULL AUTO_INCREMENT,
        `page_id` bigint(20) DEFAULT NULL,
        `title` varchar(50) COLLATE utf8mb4_bin NOT NULL DEFAULT 'a, (b) it''s \\'so\\'' COMMENT 'DEFAULT 3',
        `fee` decimal(6,2) NOT NULL DEFAULT -1.50,
        `flags` bit(4) DEFAULT b'101',
        `mood` enum('calm','it''s rough') DEFAULT 'calm',
        `made` datetime(3) DEFAULT current_timestamp(3) ON UPDATE current_timestamp(3),
        `data` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`data`)),
        PRIMARY KEY (`id`),
        UNIQUE KEY `by_title` (`title`(20),`fee` DESC),
        KEY `by_fee` (`fee`),
        FULLTEXT KEY `words` (`title`),
        CONSTRAINT `offers_page` FOREIGN KEY (`page_id`) REFERENCES `wp_pages` (`ID`) ON DELETE SET NULL ON UPDATE CASCADE
      ) ENGINE=InnoDB AUTO_INCREMENT=17 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_uca1400_ai_ci COMMENT='it''s'""";

  private static TableShape read(String sql, boolean backslash) throws TableDefinition.Beyond {
    return TableDefinition.read(List.of(sql), backslash, NAMES);
  }

  @Test
  void aServersTableIsReadAndMadeAgain() throws Exception {
    TableShape shape = read(SERVER, true);
    assertThat(shape.words())
        .containsExactly(
            "id bigint(20) unsigned, not null, counts by itself",
            "page_id bigint(20), default NULL",
            "title varchar(50), not null, default a, (b) it's 'so', utf8mb4_bin",
            "fee decimal(6,2), not null, default -1.50",
            "flags bit(4), default 5",
            "mood enum (calm, it's rough), default calm",
            "made datetime(3), default the time, set to the time by updates",
            "data longtext, default NULL, utf8mb4_bin, JSON",
            "primary key (id)",
            "unique index by_title (title, fee)",
            "index by_fee (fee)",
            "full-text index words (title)",
            "(page_id) refers to pages");
    List<String> made = new MariaDbSchema().createTable("live_offers", shape, n -> "live_" + n);
    assertThat(made).hasSize(1);
    assertThat(made.get(0))
        .startsWith("CREATE TABLE `live_offers` (")
        .contains(
            "`title` varchar(50) COLLATE utf8mb4_bin NOT NULL DEFAULT 'a, (b) it''s ''so''' COMMENT 'DEFAULT 3'",
            "`flags` bit(4) NULL DEFAULT b'101'",
            "`mood` enum('calm','it''s rough') NULL DEFAULT 'calm'",
            "CHECK (json_valid(`data`))",
            "UNIQUE KEY `by_title` (`title`(20), `fee` DESC)",
            "FOREIGN KEY (`page_id`) REFERENCES `live_pages` (`ID`) ON DELETE SET NULL ON UPDATE CASCADE")
        .doesNotContain("offers_page", "AUTO_INCREMENT=17")
        .endsWith(
            "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_uca1400_ai_ci COMMENT='it''s'");
    assertThat(read(made.get(0).replace("live_", "wp_"), true)).isEqualTo(shape);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "CREATE TABLE \"a\" (b INTEGER PRIMARY KEY AUTOINCREMENT /* a */, c TEXT NOT NULL DEFAULT 'x' COLLATE NOCASE, d) | `b` INTEGER PRIMARY KEY AUTOINCREMENT,  `c` TEXT NOT NULL DEFAULT 'x' COLLATE NOCASE,  `d`",
        "CREATE TABLE a (b INT REFERENCES wp_c(d) ON DELETE CASCADE) | `b` INT,  FOREIGN KEY (`b`) REFERENCES `c` (`d`) ON DELETE CASCADE",
        "CREATE TABLE a (b VARCHAR(9), c DECIMAL(6, 2), PRIMARY KEY (b, c), UNIQUE (c)) WITHOUT ROWID | `b` VARCHAR(9),  `c` DECIMAL(6,2),  PRIMARY KEY (`b`, `c`),  UNIQUE (`c`)",
      })
  void aFilesTableIsReadAndMadeAgain(String sql, String elements) throws Exception {
    List<String> made = new SqliteSchema().createTable("a", read(sql, false), n -> n);
    assertThat(made.get(0).replace("\n", "")).startsWith("CREATE TABLE `a` (  " + elements + ")");
  }

  @Test
  void indexesThatStandApartAreReadToo() throws Exception {
    TableShape shape =
        TableDefinition.read(
            List.of(
                "CREATE TABLE a (title TEXT, fee INT)",
                "CREATE INDEX by_it ON \"a\" (title DESC, fee)",
                "CREATE UNIQUE INDEX by_fee ON a (fee)"),
            false,
            NAMES);
    assertThat(new SqliteSchema().createTable("a", shape, n -> n))
        .element(1)
        .isEqualTo("CREATE INDEX `by_it` ON `a` (`title` DESC, `fee`)");
    assertThatThrownBy(
            () ->
                TableDefinition.read(
                    List.of("CREATE TABLE a (b INT)", "CREATE INDEX i ON a (b) WHERE b > 1"),
                    false,
                    NAMES))
        .hasMessageContaining("for some rows only");
  }

  @Test
  void theTimeOfWritingIsReadWithAndWithoutMilliseconds() throws Exception {
    TableShape shape =
        TableDefinition.read(
            List.of(
                "CREATE TABLE a (made TEXT DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),"
                    + " seen TEXT DEFAULT CURRENT_TIMESTAMP)"),
            false,
            NAMES);
    assertThat(shape.columns())
        .extracting(column -> column.standard().orElseThrow())
        .containsExactly(
            new weftex.core.schema.ColumnShape.Standard.Now(3),
            new weftex.core.schema.ColumnShape.Standard.Now(0));
  }

  /** Whatever is worked out, and whatever the grammar does not know, is left to a person. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "CREATE TABLE a (b INT, c INT GENERATED ALWAYS AS (b + 1))",
        "CREATE TABLE a (b INT AS (1) STORED)",
        "CREATE TABLE a (b TEXT DEFAULT (strftime('%s', 'now')))",
        "CREATE TABLE a (b TEXT DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now', '+1 day')))",
        "CREATE TABLE a (b INT CHECK (b > 1))",
        "CREATE TABLE a (b INT, CHECK (b > 1))",
        "CREATE TABLE a (b INT DEFAULT (1 + 1))",
        "CREATE TABLE a (b CHAR(36) DEFAULT uuid())",
        "CREATE TABLE a (b INT) PARTITION BY HASH (b)",
        "CREATE TABLE a (b INT) /*!50100 PARTITION BY HASH (b) */",
        "CREATE TABLE a (b INT /*!50000 , DROP COLUMN body */)",
        "CREATE TABLE a (b INT) ENGINE=MERGE UNION=(c)",
        "CREATE TABLE a (b INT) DATA DIRECTORY='/tmp'",
        "CREATE TABLE a SELECT * FROM accounts",
        "CREATE TABLE a (b INT INVISIBLE)",
        "CREATE TABLE a (b INT",
      })
  void whatIsBeyondTheGrammarIsSaid(String sql) {
    assertThatThrownBy(() -> read(sql, true)).isInstanceOf(TableDefinition.Beyond.class);
  }
}
