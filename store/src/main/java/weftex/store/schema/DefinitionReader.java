package weftex.store.schema;

import java.util.ArrayList;
import java.util.List;
import weftex.store.schema.SqlTokens.Kind;
import weftex.store.schema.SqlTokens.Token;

/** Walks through the tokens of a statement that defines something. */
final class DefinitionReader {
  private static final Token END = new Token(Kind.SIGN, 0, 0, "the end");

  private final List<Token> tokens;
  private final boolean backslash;
  private int at;

  /**
   * @throws TableDefinition.Beyond if the statement has comments that a server executes
   */
  DefinitionReader(String sql, boolean backslash) throws TableDefinition.Beyond {
    // A comment that is executed may hold anything, and only some servers see it.
    if (sql.contains("/*!") || sql.contains("/*M!")) {
      throw new TableDefinition.Beyond("its definition has parts for some servers only");
    }
    this.tokens = SqlTokens.of(sql, backslash);
    this.backslash = backslash;
  }

  boolean atEnd() {
    return at >= tokens.size() || tokens.get(at).is(";");
  }

  /** Whether a column, key or constraint ends here. */
  boolean atElementsEnd() {
    return atEnd() || peek().is(",") || peek().is(")");
  }

  Token peek() {
    return at < tokens.size() ? tokens.get(at) : END;
  }

  String peekWord() {
    return SqlTokens.upper(peek().text());
  }

  Token next() {
    Token token = peek();
    at++;
    return token;
  }

  Token previous() {
    return tokens.get(at - 1);
  }

  boolean isFollowedByString() {
    return at + 1 < tokens.size()
        && tokens.get(at + 1).kind() == Kind.STRING
        && tokens.get(at + 1).from() == peek().to();
  }

  /** Passes over a word or sign if it stands here. */
  boolean skip(String word) {
    boolean here = peek().is(word);
    at += here ? 1 : 0;
    return here;
  }

  void expect(String word) throws TableDefinition.Beyond {
    if (!skip(word)) {
      throw new TableDefinition.Beyond(
          "its definition has " + peek().text() + " where " + word + " is expected");
    }
  }

  String name() throws TableDefinition.Beyond {
    if (!peek().isName()) {
      throw new TableDefinition.Beyond("its definition has " + peek().text() + " for a name");
    }
    return next().text();
  }

  /** Names in parentheses. */
  List<String> names() throws TableDefinition.Beyond {
    List<String> names = new ArrayList<>();
    expect("(");
    do {
      names.add(name());
    } while (skip(","));
    expect(")");
    return names;
  }

  int number() throws TableDefinition.Beyond {
    String digits = next().text();
    if (!digits.matches("\\d{1,9}")) {
      throw new TableDefinition.Beyond("its definition has " + digits + " for a number");
    }
    return Integer.parseInt(digits);
  }

  /** The word behind an option, with or without a sign of equality between. */
  String option() {
    skip("=");
    return next().text();
  }

  /** What a string in quotes says. */
  String string() throws TableDefinition.Beyond {
    if (peek().kind() != Kind.STRING) {
      throw new TableDefinition.Beyond("its definition has " + peek().text() + " for a string");
    }
    String written = next().text();
    StringBuilder said = new StringBuilder();
    for (int i = 1; i < written.length() - 1; i++) {
      char c = written.charAt(i);
      if (c == '\\' && backslash) {
        c = unescaped(written.charAt(++i));
      } else if (c == '\'') {
        i++;
      }
      said.append(c);
    }
    return said.toString();
  }

  private static char unescaped(char c) {
    return switch (c) {
      case 'n' -> '\n';
      case 'r' -> '\r';
      case 't' -> '\t';
      case '0' -> '\0';
      case 'Z' -> '\u001a';
      default -> c;
    };
  }
}
