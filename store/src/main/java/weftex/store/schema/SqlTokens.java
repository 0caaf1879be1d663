package weftex.store.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Splits an SQL statement into words, names, strings and signs; blanks and comments fall away. */
public final class SqlTokens {
  private final String sql;
  private final boolean backslash;
  private final List<Token> tokens = new ArrayList<>();
  private int at;

  /** What a token is. */
  enum Kind {
    WORD,
    QUOTED,
    STRING,
    SIGN
  }

  /**
   * A token.
   *
   * @param from where it begins in the statement
   * @param to where it ends
   * @param text as it is written; a quoted name without its quotes
   */
  public record Token(Kind kind, int from, int to, String text) {
    public boolean is(String word) {
      return kind != Kind.QUOTED && kind != Kind.STRING && text.equalsIgnoreCase(word);
    }

    public boolean isName() {
      return kind == Kind.WORD || kind == Kind.QUOTED;
    }
  }

  private SqlTokens(String sql, boolean backslash) {
    this.sql = sql;
    this.backslash = backslash;
  }

  /**
   * Splits.
   *
   * @param backslash whether a backslash in a string takes the next character as it is
   */
  public static List<Token> of(String sql, boolean backslash) {
    SqlTokens splitter = new SqlTokens(sql, backslash);
    while (splitter.at < sql.length()) {
      splitter.next();
    }
    return splitter.tokens;
  }

  private void next() {
    char c = sql.charAt(at);
    if (Character.isWhitespace(c)) {
      at++;
    } else if (sql.startsWith("--", at)) {
      skipTo("\n");
    } else if (sql.startsWith("/*", at)) {
      skipTo("*/");
    } else if (c == '\'') {
      quoted(Kind.STRING, '\'');
    } else if (c == '`' || c == '"') {
      quoted(Kind.QUOTED, c);
    } else if (c == '[') {
      quoted(Kind.QUOTED, ']');
    } else {
      plain();
    }
  }

  private void skipTo(String end) {
    int found = sql.indexOf(end, at);
    at = found < 0 ? sql.length() : found + end.length();
  }

  private void quoted(Kind kind, char end) {
    int from = at++;
    StringBuilder text = new StringBuilder();
    while (at < sql.length()) {
      char c = sql.charAt(at++);
      if (c == end && (at >= sql.length() || sql.charAt(at) != end)) {
        break;
      }
      if (c == end || c == '\\' && backslash && kind == Kind.STRING) {
        at++;
      }
      text.append(c);
    }
    at = Math.min(at, sql.length());
    String written = sql.substring(from, at);
    tokens.add(new Token(kind, from, at, kind == Kind.STRING ? written : text.toString()));
  }

  private void plain() {
    int from = at++;
    boolean word = isWordPart(sql.charAt(from));
    while (word && at < sql.length() && (isWordPart(sql.charAt(at)) || isPoint(from))) {
      at++;
    }
    tokens.add(new Token(word ? Kind.WORD : Kind.SIGN, from, at, sql.substring(from, at)));
  }

  private static boolean isWordPart(char c) {
    return Character.isLetterOrDigit(c) || c == '_' || c == '$';
  }

  /** Whether the point of a decimal number comes next. */
  private boolean isPoint(int from) {
    return sql.charAt(at) == '.' && sql.substring(from, at).matches("\\d+");
  }

  /** A word in capitals, for telling keywords apart. */
  public static String upper(String word) {
    return word.toUpperCase(Locale.ROOT);
  }
}
