package weftex.store.schema;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import weftex.store.schema.SqlTokens.Kind;
import weftex.store.schema.SqlTokens.Token;

class SqlTokensTest {
  private static List<String> texts(String sql) {
    return SqlTokens.of(sql, false).stream().map(Token::text).toList();
  }

  private static List<Kind> kinds(String sql) {
    return SqlTokens.of(sql, false).stream().map(Token::kind).toList();
  }

  @Test
  void wordsNamesStringsAndSigns() {
    assertThat(texts("CREATE TABLE `pages` (id INT, \"title\" TEXT DEFAULT 'x')"))
        .containsExactly(
            "CREATE", "TABLE", "pages", "(", "id", "INT", ",", "title", "TEXT", "DEFAULT", "'x'",
            ")");
    assertThat(kinds("a `b` 'c' ,"))
        .containsExactly(Kind.WORD, Kind.QUOTED, Kind.STRING, Kind.SIGN);
  }

  @Test
  void aQuotedNameIsNoKeyword() {
    Token quoted = SqlTokens.of("`KEY`", false).get(0);
    assertThat(quoted.is("KEY")).isFalse();
    assertThat(quoted.isName()).isTrue();
    Token word = SqlTokens.of("key", false).get(0);
    assertThat(word.is("KEY")).isTrue();
  }

  @Test
  void aQuoteInANameIsWrittenTwice() {
    assertThat(texts("`a``b` \"c\"\"d\" [e f]")).containsExactly("a`b", "c\"d", "e f");
  }

  @Test
  void aStringKeepsItsQuotesAndEndsAtItsOwn() {
    assertThat(texts("'it''s' 'x'")).containsExactly("'it''s'", "'x'");
  }

  @Test
  void aBackslashEscapesOnlyWhereTheDatabaseSaysSo() {
    String sql = "'it\\'s' x";
    assertThat(SqlTokens.of(sql, true).stream().map(Token::text)).containsExactly("'it\\'s'", "x");
    assertThat(SqlTokens.of("'a\\' x", false).stream().map(Token::text))
        .containsExactly("'a\\'", "x");
  }

  @Test
  void commentsFallAway() {
    assertThat(texts("a -- b\nc /* d */ e")).containsExactly("a", "c", "e");
    assertThat(texts("a /* never closed")).containsExactly("a");
    assertThat(texts("a -- to the end")).containsExactly("a");
  }

  @Test
  void aNumberWithAPointIsOne() {
    assertThat(texts("DEFAULT 1.50, 3")).containsExactly("DEFAULT", "1.50", ",", "3");
    assertThat(texts("pages.id")).containsExactly("pages", ".", "id");
  }

  @Test
  void placesAreThoseOfTheStatement() {
    String sql = "  a 'b c' `d`";
    assertThat(SqlTokens.of(sql, false))
        .allSatisfy(
            token -> {
              String written = sql.substring(token.from(), token.to());
              assertThat(written)
                  .isEqualTo(token.kind() == Kind.QUOTED ? "`" + token.text() + "`" : token.text());
            });
  }

  @Test
  void whatIsNeverClosedEndsWithTheStatement() {
    assertThat(texts("'open")).containsExactly("'open");
    assertThat(texts("`open")).containsExactly("open");
  }

  @Test
  void keywordsAreToldApartInEveryLanguage() {
    assertThat(SqlTokens.upper("unique")).isEqualTo("UNIQUE");
    assertThat(SqlTokens.upper("index")).as("also where i has a dot").isEqualTo("INDEX");
  }
}
