package weftex.store.copy;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class TableDefinitionTest {
  private static final String SERVER =
      """
      CREATE TABLE `wp_offers` (
        `id` bigint(20) NOT NULL AUTO_INCREMENT,
        `title` varchar(50) NOT NULL DEFAULT 'a, (b) it''s \\'so\\'' COMMENT 'DEFAULT 3',
        `fee` decimal(6,2) NOT NULL DEFAULT -1.50,
        `flags` bit(1) DEFAULT b'0',
        `made` datetime DEFAULT current_timestamp(),
        PRIMARY KEY (`id`),
        UNIQUE KEY `by_title` (`title`(20),`fee`),
        KEY `by_fee` (`fee`),
        CONSTRAINT `offers_page` FOREIGN KEY (`page_id`) REFERENCES `wp_pages` (`ID`) ON DELETE CASCADE
      ) ENGINE=InnoDB AUTO_INCREMENT=17 DEFAULT CHARSET=utf8mb4""";

  private final TableDefinition server = new TableDefinition(SERVER, true);

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "title | 'a, (b) it''s \\'so\\''",
        "fee | -1.50",
        "flags | b'0'",
        "made | ",
        "id | ",
      })
  void literalsAfterDefault(String column, String literal) {
    assertThat(server.literalDefault(column).orElse(null)).isEqualTo(literal);
  }

  @Test
  void columnsAndIndexes() {
    assertThat(server.column("fee")).contains("`fee` decimal(6,2) NOT NULL DEFAULT -1.50");
    assertThat(server.column("nothing")).isEmpty();
    assertThat(server.indexes())
        .extracting(index -> index.name() + " " + index.columns())
        .containsExactly("by_title [title, fee]", "by_fee [fee]");
    TableDefinition.Index apart =
        TableDefinition.index("CREATE INDEX by_it ON \"my pages\" (title DESC, fee)", false);
    assertThat(apart.name()).isEqualTo("by_it");
    assertThat(apart.columns()).containsExactly("title", "fee");
  }

  @Test
  void otherNamesOfTables() {
    String renamed =
        TableDefinition.renamed(SERVER, true, name -> name.replaceFirst("^wp_", "live_"));
    assertThat(renamed)
        .startsWith("CREATE TABLE `live_offers` (")
        .contains("FOREIGN KEY (`page_id`) REFERENCES `live_pages` (`ID`) ON DELETE CASCADE")
        .contains("'a, (b) it''s \\'so\\''")
        .doesNotContain("offers_page", "AUTO_INCREMENT=17")
        .endsWith("ENGINE=InnoDB DEFAULT CHARSET=utf8mb4");
    assertThat(TableDefinition.renamed("CREATE UNIQUE INDEX i ON a (b)", false, name -> "x" + name))
        .isEqualTo("CREATE UNIQUE INDEX i ON `xa` (b)");
    assertThat(
            TableDefinition.renamed(
                "CREATE TABLE \"a\" (b INT /* a */ REFERENCES a(b) -- a\n)", false, n -> "x" + n))
        .isEqualTo("CREATE TABLE `xa` (b INT /* a */ REFERENCES `xa`(b) -- a\n)");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "CREATE TABLE `pages` (id INT)",
        "CREATE TABLE pages (title TEXT DEFAULT '; DROP TABLE x')",
        "CREATE UNIQUE INDEX i ON pages (id)",
        "ALTER TABLE `pages` ADD COLUMN `a` enum('b','c') AFTER `d`, ADD KEY `e` (`a`,`d`)"
      })
  void statementsThatOnlyMake(String sql) {
    assertThat(TableDefinition.onlyMakes(sql, true, "pages")).isTrue();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "CREATE TABLE other (id INT)",
        "CREATE TABLE pages AS SELECT * FROM accounts",
        "CREATE TABLE pages (id INT); DROP TABLE accounts",
        "CREATE INDEX i ON other (id)",
        "ALTER TABLE pages DROP COLUMN title",
        "ALTER TABLE pages ADD COLUMN a INT, DROP COLUMN title",
        "ALTER TABLE pages ADD COLUMN a INT, RENAME TO b",
        "UPDATE pages SET title = 'x' WHERE 1",
        "DROP TABLE pages"
      })
  void statementsThatDoMore(String sql) {
    assertThat(TableDefinition.onlyMakes(sql, true, "pages")).isFalse();
  }
}
