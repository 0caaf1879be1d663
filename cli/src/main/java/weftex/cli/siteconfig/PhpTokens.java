package weftex.cli.siteconfig;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Splits PHP into words, strings and signs; blanks, comments and what stands outside of the code
 * fall away. One pass, no recursion.
 */
final class PhpTokens {
  private static final Pattern HEREDOC = Pattern.compile("<<<[ \\t]*(['\"]?)(\\w+)\\1\\r?\\n");
  private static final Pattern VARIABLE = Pattern.compile("\\$[A-Za-z_{]|\\{\\$");

  private final String php;
  private final List<Token> tokens = new ArrayList<>();
  private int at;
  private int line = 1;
  private int counted;

  /** What a token is. */
  enum Kind {
    WORD,
    STRING,
    /** A string into which PHP would put variables. */
    TEMPLATE
  }

  /**
   * A token.
   *
   * @param text a string without its quotes and escapes
   * @param line where it begins, from 1
   */
  record Token(Kind kind, String text, int line) {
    boolean isString() {
      return kind == Kind.STRING;
    }
  }

  private PhpTokens(String php) {
    this.php = php;
  }

  static List<Token> of(String php) {
    PhpTokens splitter = new PhpTokens(php);
    splitter.toCode();
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
      skipComment();
    } else if (php.startsWith("/*", at)) {
      skipTo("*/");
    } else if (php.startsWith("?>", at)) {
      add(Kind.WORD, ";", line());
      toCode();
    } else if (c == '\'' || c == '"') {
      string(c);
    } else if (!php.startsWith("<<<", at) || !heredoc()) {
      word();
    }
  }

  private void toCode() {
    skipTo("<?");
    if (php.startsWith("php", at)) {
      at += "php".length();
    }
  }

  /** A comment of one line ends before the code does. */
  private void skipComment() {
    while (at < php.length() && php.charAt(at) != '\n' && !php.startsWith("?>", at)) {
      at++;
    }
  }

  private void skipTo(String end) {
    int found = php.indexOf(end, at);
    at = found < 0 ? php.length() : found + end.length();
  }

  private int line() {
    for (; counted < at; counted++) {
      line += php.charAt(counted) == '\n' ? 1 : 0;
    }
    return line;
  }

  private void add(Kind kind, String text, int begins) {
    tokens.add(new Token(kind, text, begins));
  }

  private void string(char quote) {
    int begins = line();
    StringBuilder text = new StringBuilder();
    boolean template = false;
    at++;
    while (at < php.length() && php.charAt(at) != quote) {
      char c = php.charAt(at);
      if (c == '\\' && at + 1 < php.length() && isEscaped(php.charAt(at + 1), quote)) {
        text.append(escaped(php.charAt(at + 1), quote));
        at += 2;
        continue;
      }
      template |= quote == '"' && VARIABLE.matcher(php).region(at, php.length()).lookingAt();
      text.append(c);
      at++;
    }
    at++;
    add(template ? Kind.TEMPLATE : Kind.STRING, text.toString(), begins);
  }

  private static boolean isEscaped(char c, char quote) {
    return c == quote || c == '\\' || quote == '"' && "$nrt".indexOf(c) >= 0;
  }

  private static char escaped(char c, char quote) {
    if (quote == '"') {
      int control = "nrt".indexOf(c);
      return control < 0 ? c : "\n\r\t".charAt(control);
    }
    return c;
  }

  private boolean heredoc() {
    Matcher begin = HEREDOC.matcher(php).region(at, php.length());
    if (!begin.lookingAt()) {
      return false;
    }
    int begins = line();
    Matcher end =
        Pattern.compile("(?m)^[ \\t]*" + begin.group(2) + "\\b")
            .matcher(php)
            .region(begin.end(), php.length());
    at = end.find() ? end.end() : php.length();
    add(Kind.TEMPLATE, "", begins);
    return true;
  }

  private void word() {
    int begins = line();
    int from = at++;
    boolean word = isWordPart(php.charAt(from));
    while (word && at < php.length() && isWordPart(php.charAt(at))) {
      at++;
    }
    add(Kind.WORD, php.substring(from, at), begins);
  }

  private static boolean isWordPart(char c) {
    return Character.isLetterOrDigit(c) || c == '_' || c == '$' || c == '\\';
  }
}
