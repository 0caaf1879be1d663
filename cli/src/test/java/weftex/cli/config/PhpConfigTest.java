package weftex.cli.config;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.store.Refusal;

class PhpConfigTest {

  private static PhpConfig parse(String php) {
    return PhpConfig.parse(Path.of("config.php"), "<?php\n" + php);
  }

  @ParameterizedTest(name = "{0} is {1} port {2}")
  @CsvSource({
    "localhost, 127.0.0.1, 3306",
    "db.skerrow.example, db.skerrow.example, 3306",
    "db.skerrow.example:3307, db.skerrow.example, 3307",
    "localhost:/run/mysqld/mysqld.sock, 127.0.0.1, 3306",
    "10.1.2.3:13306, 10.1.2.3, 13306"
  })
  void readsAHostWithAPortOrASocket(String written, String host, int port) throws Refusal {
    PhpConfig config = parse("define('DB_HOST', '" + written + "');");
    assertThat(config.host()).isEqualTo(host);
    assertThat(config.port()).isEqualTo(port);
  }

  @Test
  void quotesAndCommentSignsInsideAStringBelongToIt() throws Refusal {
    PhpConfig config = parse("define( \"DB_PASSWORD\" , 'a\\'b\\\\c # not // a /* comment' );");
    assertThat(config.password()).isEqualTo("a'b\\c # not // a /* comment");
  }

  @Test
  void whatIsCommentedOutIsNotThere() throws Refusal {
    PhpConfig config =
        parse(
            """
            # define('DB_NAME', 'one');
            // define('DB_NAME', 'two');
            /* define('DB_NAME', 'three');
               $table_prefix = 'no_'; */
            define('DB_NAME', 'four');
            define('DB_NAME', 'a later one that PHP ignores');
            $table_prefix = "yes_";
            """);
    assertThat(config.database()).isEqualTo("four");
    assertThat(config.prefix()).isEqualTo("yes_");
  }

  @Test
  void whatIsComputedIsNotGuessed() {
    PhpConfig config = parse("define('DB_USER', getenv('DB_USER'));");
    Refusal refusal = catchThrowableOfType(Refusal.class, config::user);
    assertThat(refusal.getMessage())
        .contains("config.php", "does not define DB_USER as a plain text");
    assertThat(config.prefix()).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "plain, plain",
    "a/b.yaml, a/b.yaml",
    "no, '\"no\"'",
    "10, '\"10\"'",
    "o'brien, '\"o''brien\"'",
    "'', '\"\"'"
  })
  void yamlScalarsAreQuotedWhereTheyMustBe(String text, String yaml) {
    assertThat(PairWriter.quoted(text)).isEqualTo(yaml);
  }
}
