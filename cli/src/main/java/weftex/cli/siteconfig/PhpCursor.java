package weftex.cli.siteconfig;

import java.util.List;
import weftex.cli.siteconfig.PhpTokens.Kind;
import weftex.cli.siteconfig.PhpTokens.Token;

/** A place among the tokens of a PHP file, and how to go on from there. */
final class PhpCursor {
  /** How deeply things may stand in each other before the rest is passed over. */
  private static final int DEEPEST = 60;

  private final List<Token> tokens;
  private int at;
  private int depth;

  /**
   * @param depth how deeply the file itself stands in others
   */
  PhpCursor(List<Token> tokens, int depth) {
    this.tokens = tokens;
    this.depth = depth;
  }

  boolean atEnd() {
    return at >= tokens.size();
  }

  int at() {
    return at;
  }

  int depth() {
    return depth;
  }

  void back(int to) {
    at = to;
  }

  void skip(int many) {
    at += many;
  }

  /** Passes over all that is left. */
  void end() {
    at = tokens.size();
  }

  Token next() {
    return tokens.get(at++);
  }

  /** The line here; 0 at the end. */
  int line() {
    return atEnd() ? 0 : tokens.get(at).line();
  }

  /** Goes one level deeper, unless that is too deep: then nothing more is read. */
  boolean deeper() {
    if (depth > DEEPEST) {
      end();
      return false;
    }
    depth++;
    return true;
  }

  void higher() {
    depth--;
  }

  /** Up to the end of a statement. */
  void skipStatement() {
    skipTo(";");
    take(";");
  }

  /** Up to what ends an expression. */
  void skipExpression() {
    int level = 0;
    while (at < tokens.size()) {
      if (level == 0 && (is(";") || is(",") || is(")") || is("]") || is("}"))) {
        return;
      }
      level += opens() ? 1 : closes() ? -1 : 0;
      at++;
    }
  }

  /** Up to a sign outside of brackets, or to the end of the block. */
  void skipTo(String sign) {
    int level = 0;
    while (at < tokens.size()) {
      if (level == 0 && (is(sign) || is("}"))) {
        return;
      }
      level += opens() ? 1 : closes() && level > 0 ? -1 : 0;
      at++;
    }
  }

  /** Past a block in braces. */
  void skipBlock() {
    while (at < tokens.size() && !is("{") && !is(";")) {
      at++;
    }
    int level = 0;
    while (at < tokens.size()) {
      level += opens() ? 1 : closes() ? -1 : 0;
      at++;
      if (level <= 0) {
        return;
      }
    }
  }

  private boolean opens() {
    return is("{") || is("(") || is("[");
  }

  private boolean closes() {
    return is("}") || is(")") || is("]");
  }

  /** The word or sign here; empty for a string and at the end. */
  String word() {
    return at < tokens.size() && tokens.get(at).kind() == Kind.WORD ? tokens.get(at).text() : "";
  }

  /** Goes past a word or sign if it stands here. */
  boolean take(String word) {
    if (is(word)) {
      at++;
      return true;
    }
    return false;
  }

  boolean is(String word) {
    return is(word, 0);
  }

  /** Whether a word or sign stands so many tokens ahead. */
  boolean is(String word, int ahead) {
    if (word.equals("::")) {
      return is(":", ahead) && is(":", ahead + 1);
    }
    return at + ahead < tokens.size()
        && tokens.get(at + ahead).kind() == Kind.WORD
        && tokens.get(at + ahead).text().equals(word);
  }
}
