package weftex.cli.config;

import java.util.ArrayList;
import java.util.List;

/**
 * Splits PHP into words, strings and signs; blanks and comments fall away. One pass, no recursion.
 */
final class PhpTokens {
  private final String php;
  private final List<Token> tokens = new ArrayList<>();
  private int at;

  /**
   * A token.
   *
   * @param text a string without its quotes and escapes
   */
  record Token(boolean isString, String text) {}

  private PhpTokens(String php) {
    this.php = php;
  }

  static List<Token> of(String php) {
    PhpTokens splitter = new PhpTokens(php);
    while (splitter.at < php.length()) {
      splitter.next();
    }
    return splitter.tokens;
  }

  private void next() {
    char c = php.charAt(at);
    if (Character.isWhitespace(c)) {
      at++;
    } else if (c == '#' || php.startsWith("//", at)) {
      skipTo("\n");
    } else if (php.startsWith("/*", at)) {
      skipTo("*/");
    } else if (c == '\'' || c == '"') {
      string(c);
    } else {
      word();
    }
  }

  private void skipTo(String end) {
    int found = php.indexOf(end, at);
    at = found < 0 ? php.length() : found + end.length();
  }

  private void string(char quote) {
    StringBuilder text = new StringBuilder();
    at++;
    while (at < php.length() && php.charAt(at) != quote) {
      char c = php.charAt(at++);
      boolean escapes = c == '\\' && at < php.length() && isEscaped(php.charAt(at), quote);
      text.append(escapes ? php.charAt(at++) : c);
    }
    at++;
    tokens.add(new Token(true, text.toString()));
  }

  private static boolean isEscaped(char c, char quote) {
    return c == quote || c == '\\' || quote == '"' && c == '$';
  }

  private void word() {
    int from = at++;
    boolean word = isWordPart(php.charAt(from));
    while (word && at < php.length() && isWordPart(php.charAt(at))) {
      at++;
    }
    tokens.add(new Token(false, php.substring(from, at)));
  }

  private static boolean isWordPart(char c) {
    return Character.isLetterOrDigit(c) || c == '_' || c == '$';
  }
}
