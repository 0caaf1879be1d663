package weftex.cli.siteconfig;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PhpTokensTest {
  private static List<PhpTokens.Token> tokens(String php) {
    return PhpTokens.of("<?php\n" + php);
  }

  private static List<String> texts(String php) {
    return tokens(php).stream().map(PhpTokens.Token::text).toList();
  }

  @Test
  void wordsStringsAndSigns() {
    assertThat(texts("define('DB_NAME', \"skerrow\");"))
        .containsExactly("define", "(", "DB_NAME", ",", "skerrow", ")", ";");
    assertThat(texts("$table_prefix='skf_';")).containsExactly("$table_prefix", "=", "skf_", ";");
    assertThat(tokens("'a'\n b \"$c\""))
        .containsExactly(
            new PhpTokens.Token(PhpTokens.Kind.STRING, "a", 2),
            new PhpTokens.Token(PhpTokens.Kind.WORD, "b", 3),
            new PhpTokens.Token(PhpTokens.Kind.TEMPLATE, "$c", 3));
  }

  @Test
  void escapesAsTheLanguageHasThem() {
    assertThat(texts("'it\\'s'")).containsExactly("it's");
    assertThat(texts("'a\\\\'")).containsExactly("a\\");
    assertThat(texts("'a\\n'")).containsExactly("a\\n");
    assertThat(texts("'\\$x'")).containsExactly("\\$x");
    assertThat(texts("\"\\$x\"")).containsExactly("$x");
    assertThat(texts("\"say \\\"no\\\"\"")).containsExactly("say \"no\"");
  }

  @Test
  void whatStandsOutsideOfTheCodeFallsAway() {
    assertThat(texts("a ?> it's text <?php b // c ?> text <?= d ?>"))
        .containsExactly("a", ";", "b", ";", "=", "d", ";");
    assertThat(texts("a <<<'X'\n it's\n X; b")).containsExactly("a", "", ";", "b");
  }

  @Test
  void commentsFallAway() {
    assertThat(texts("a // b 'c\nd")).containsExactly("a", "d");
    assertThat(texts("a # b \"c\nd")).containsExactly("a", "d");
    assertThat(texts("a /* b\n'c */ d")).containsExactly("a", "d");
    assertThat(texts("a/**/d")).containsExactly("a", "d");
  }

  @Test
  void whatIsNotClosedEndsWithTheFile() {
    assertThat(texts("'open")).containsExactly("open");
    assertThat(texts("'open\\")).containsExactly("open\\");
    assertThat(texts("a /* open")).containsExactly("a");
    assertThat(texts("a // open")).containsExactly("a");
    assertThat(texts("")).isEmpty();
  }

  /** Whatever stands in a file, it is split, and in time that grows with it. */
  @Test
  void anythingAtAllIsSplit() {
    Random random = new Random(20261127);
    String signs = "'\"\\#/*\n $a(";
    for (int round = 0; round < 2000; round++) {
      StringBuilder php = new StringBuilder();
      for (int i = random.nextInt(60); i > 0; i--) {
        php.append(signs.charAt(random.nextInt(signs.length())));
      }
      int length = tokens(php.toString()).stream().mapToInt(t -> t.text().length()).sum();
      assertThat(length).isLessThanOrEqualTo(php.length());
    }
    for (String unit : List.of("'", "\\", "/*", "//\n", "(((", "'\\''")) {
      assertThat(tokens(unit.repeat(500_000))).isNotNull();
    }
  }

  @Test
  void aFileIsReadUpToWhatPeopleWrite(@TempDir Path folder) throws Exception {
    Path file = folder.resolve("config.php");
    Files.writeString(file, "<?php // Skerrow – Fähren");
    assertThat(SmallFile.read(file)).isEqualTo("<?php // Skerrow – Fähren");
    Files.write(file, new byte[2 * 1024 * 1024]);
    assertThat(SmallFile.read(file)).hasSize(2 * 1024 * 1024);
    Files.write(file, new byte[2 * 1024 * 1024 + 1]);
    assertThatThrownBy(() -> SmallFile.read(file)).hasMessage("it has more than 2 MB");
    assertThatThrownBy(() -> SmallFile.read(Path.of("/dev/zero")))
        .hasMessage("it has more than 2 MB");
  }

  @Test
  void whyAFileCantBeReadIsSaid(@TempDir Path folder) {
    assertThat(SmallFile.reason(new NoSuchFileException("x"))).isEqualTo("it is not there");
    assertThat(SmallFile.reason(new java.nio.file.AccessDeniedException("x")))
        .isEqualTo("this user has no right to it");
    assertThat(SmallFile.reason(new IOException("odd"))).isEqualTo("odd");
    assertThatThrownBy(() -> SmallFile.read(folder.resolve("none")))
        .isInstanceOf(NoSuchFileException.class);
  }
}
