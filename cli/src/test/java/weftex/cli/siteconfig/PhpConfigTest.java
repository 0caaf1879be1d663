package weftex.cli.siteconfig;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.cli.config.PairWriter;
import weftex.store.Refusal;

class PhpConfigTest {
  private static final Map<String, String> ENVIRONMENT =
      Map.of("NAME_HERE", "skerrow", "HOST_HERE", "db.skerrow.example");

  @TempDir Path folder;

  private static PhpConfig parse(String php) {
    return PhpConfig.parse(Path.of("config.php"), "<?php\n" + php, ENVIRONMENT);
  }

  @ParameterizedTest(name = "{0} is {1} port {2}")
  @CsvSource({
    "localhost, 127.0.0.1, 3306",
    "db.skerrow.example, db.skerrow.example, 3306",
    "db.skerrow.example:3307, db.skerrow.example, 3307",
    "localhost:/run/mysqld/mysqld.sock, /run/mysqld/mysqld.sock, 3306",
    "10.1.2.3:13306, 10.1.2.3, 13306",
    "::1, ::1, 3306",
    "[fd00::7]:3307, fd00::7, 3307",
    "[::1], ::1, 3306"
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

  @ParameterizedTest(name = "{0}")
  @ValueSource(
      strings = {
        "define('DB_NAME', getenv('NAME_HERE'));",
        "define('DB_NAME', $_ENV['NAME_HERE']);",
        "define('DB_NAME', getenv('NOT_HERE') ?: 'skerrow');",
        "define('DB_NAME', $_SERVER['NAME_HERE'] ?? 'other');",
        "define('DB_NAME', getenv_docker('NOT_HERE', 'skerrow'));",
        "Config::define('DB_NAME', env('NAME_HERE'));",
        "const DB_NAME = 'skerrow';",
        "$db = ['name' => 'skerrow', 'port' => 3306]; define('DB_NAME', $db['name']);",
        "$c = array('db' => array('name' => 'skerrow')); define('DB_NAME', $c['db']['name']);",
        "$c['name'] = \"skerrow\"; define(\"DB_NAME\", $c['name'], true);",
        "if (!defined('DB_NAME')) define('DB_NAME', 'skerrow');",
        "if (defined('DB_NAME')) { define('DB_NAME', 'a'); } else { define('DB_NAME', 'skerrow'); }",
        "if (false): define('DB_NAME', 'a'); elseif (true): define('DB_NAME', 'skerrow'); endif;",
        "if (true) { define('DB_NAME', 'skerrow'); } elseif ($x) { define('DB_NAME', 'a'); }",
        "const SITE = 'sker'; define('DB_NAME', SITE . 'row');",
        "if (!function_exists('f')) { function f($a) { define('DB_NAME', 'a'); } } define('DB_NAME', 'skerrow');",
        "$f = function () { return 1; }; define('DB_NAME', 'skerrow'); ?> text define('DB_NAME', 'a')",
        "$t = <<<END\n'\nEND;\ndefine('DB_NAME', 'skerrow');",
        "@ini_set('x', -1); ini_set('a', \"b $c\"); define('DB_NAME', 'skerrow');"
      })
  void readsWhatCanBeReadWithoutRunningIt(String php) throws Refusal {
    assertThat(parse(php).database()).isEqualTo("skerrow");
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      value = {
        "define('DB_NAME', getenv('NOT_HERE'));|comes from the variable NOT_HERE, which is not set",
        "define('DB_NAME', lookup('x'));|DB_NAME is computed in line 2 of config.php",
        "define('DB_NAME', \"site_$x\");|DB_NAME is computed in line 2 of config.php",
        "define('DB_NAME', $x == 1 ? 'a' : 'b');|DB_NAME is computed in line 2 of config.php",
        "if ($_SERVER['HOST'] == 'a') { define('DB_NAME', 'a'); } define('DB_NAME', 'b');"
            + "|DB_NAME hangs on the condition in line 2 of config.php",
        "if (getenv('NOT_HERE')) { define('DB_NAME', 'a'); } else { define('DB_NAME', 'b'); }"
            + "|DB_NAME hangs on the condition in line 2 of config.php",
        "define('DB_NAME', false);|DB_NAME is no text in the config file config.php",
        "define('OTHER', 'a');|The config file config.php does not define DB_NAME",
        "require 'gone.php';|does not define DB_NAME"
      })
  void whatOnlyARunCouldTellIsNamedAndNotGuessed(String php, String said) {
    Refusal refusal = catchThrowableOfType(Refusal.class, () -> parse(php).database());
    assertThat(refusal.getMessage()).contains(said, "Nothing was changed");
  }

  @Test
  void filesThatItIncludesAreRead() throws Exception {
    Files.writeString(
        folder.resolve("local.php"), "<?php define('DB_HOST', getenv('HOST_HERE') . ':3307');");
    Files.writeString(folder.resolve("secrets.php"), "<?php return ['user' => 'ferry'];");
    Files.writeString(folder.resolve("wp-settings.php"), "<?php define('DB_NAME', 'no');");
    Path config = folder.resolve("wp-config.php");
    Files.writeString(
        config,
        """
        <?php
        if (file_exists(__DIR__ . '/local.php')) {
          require_once dirname(__FILE__) . '/local.php';
        } else {
          define('DB_HOST', 'elsewhere');
        }
        $secrets = include 'secrets.php';
        define('DB_USER', $secrets['user']);
        define('WP_HOME', 'https://skerrow.example');
        require_once __DIR__ . '/wp-settings.php';
        """);
    PhpConfig php = PhpConfig.read(config, ENVIRONMENT);
    assertThat(php.host()).isEqualTo("db.skerrow.example");
    assertThat(php.port()).isEqualTo(3307);
    assertThat(php.user()).isEqualTo("ferry");
    assertThat(php.address()).contains("https://skerrow.example");
    assertThat(php.notes()).isEmpty();
    assertThat(catchThrowableOfType(Refusal.class, php::database)).isNotNull();
  }

  @Test
  void whatIsTakenUnderAReserveIsSaid() throws Refusal {
    PhpConfig php =
        parse(
            """
            define('DB_NAME', getenv('NOT_HERE') ?: 'skerrow');
            define('DB_PASSWORD', getenv('NOT_HERE') ?: 'secret');
            """);
    php.database();
    assertThat(php.password()).isEqualTo("secret");
    assertThat(php.notes())
        .containsExactly(
            "DB_NAME is the file's default, 'skerrow', since the variable NOT_HERE is not set here.");
  }

  @ParameterizedTest
  @ValueSource(strings = {"(", "[", "!", "if(", "{", "$a[", "array(", "define('DB_NAME',", "'"})
  void whatIsNestedWithoutEndIsNoHarm(String sign) {
    assertThat(catchThrowableOfType(Refusal.class, () -> parse(sign.repeat(20000)).database()))
        .isNotNull();
  }

  @Test
  void aFileThatIncludesItselfIsReadOnceMoreAndThenNoMore() throws Exception {
    Path config = folder.resolve("loop.php");
    Files.writeString(config, "<?php include 'loop.php'; define('DB_NAME', 'skerrow');");
    assertThat(PhpConfig.read(config, ENVIRONMENT).database()).isEqualTo("skerrow");
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

  /**
   * The file lies in a public folder, what it looks up one above, and the environment counts first.
   */
  @Test
  void readsWhatASiteKeepsInAFileOfVariables() throws Exception {
    Path file = Files.createDirectory(folder.resolve("web")).resolve("config.php");
    Files.writeString(
        file,
        "<?php define('DB_NAME', getenv('NAME_HERE')); define('DB_PASSWORD', getenv('SECRET'));"
            + " define('DB_USER', $_ENV['WHO']); define('DB_HOST', getenv('NOT_THERE'));");
    Files.writeString(
        folder.resolve(".env"),
        """
        # of the site
        NAME_HERE=other
        BASE=mi
        WHO="${BASE}ra"
        SECRET='a # b$c'
        this is no line of it
        """);
    PhpConfig config = PhpConfig.read(file, ENVIRONMENT);
    assertThat(config.database()).isEqualTo("skerrow");
    assertThat(config.user()).isEqualTo("mira");
    assertThat(config.password()).isEqualTo("a # b$c");
    assertThat(catchThrowableOfType(Refusal.class, config::host))
        .hasMessageContaining("NOT_THERE, which is not set here");
    Files.writeString(folder.resolve("web/.env"), "x=" + "y".repeat(3_000_000));
    assertThat(catchThrowableOfType(Refusal.class, () -> PhpConfig.read(file, ENVIRONMENT)))
        .hasMessageContaining("more than 2 MB");
  }
}
