package weftex.cli.siteconfig;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Reads what a PHP config file says without running it: constants, variables and arrays, other
 * files that it includes, the environment, and conditions about these. Whatever else there is makes
 * the values that hang on it unknown, never a guess.
 */
final class PhpFileReader {
  private final Path file;
  private final PhpCursor cursor;
  private final PhpExpressions expressions;
  private final PhpKnown known;

  /** The line of a condition that nobody here can answer, while what it decides is read. */
  private int doubtful;

  private Optional<PhpValue> returned = Optional.empty();

  private PhpFileReader(Path file, String php, PhpKnown known, int doubtful, int depth) {
    this.file = file;
    this.cursor = new PhpCursor(PhpTokens.of(php), depth);
    this.known = known;
    this.doubtful = doubtful;
    this.expressions = new PhpExpressions(file, cursor, known, this::include);
  }

  /**
   * Reads a file.
   *
   * @param file where it is, which paths in it may say
   * @param environment what {@code getenv} knows
   * @return constants by their names, and variables by theirs with the dollar sign
   */
  static Map<String, PhpValue> read(Path file, String php, Map<String, String> environment) {
    PhpKnown known = new PhpKnown(environment);
    new PhpFileReader(file, php, known, 0, 0).all();
    Map<String, PhpValue> all = new HashMap<>(known.constants);
    all.putAll(known.variables);
    return all;
  }

  private void all() {
    while (!cursor.atEnd() && returned.isEmpty()) {
      statements();
      // A brace that closes nothing.
      cursor.take("}");
    }
  }

  /** Reads another file as if it stood here; what it returns, if it returns something. */
  private PhpValue include(Path other, String php) {
    PhpFileReader reader = new PhpFileReader(other, php, known, doubtful, cursor.depth());
    reader.all();
    return reader.returned.orElse(new PhpValue.Truth(true));
  }

  private void statements() {
    while (!cursor.atEnd() && !cursor.is("}") && returned.isEmpty()) {
      statement();
    }
  }

  private void statement() {
    if (!cursor.deeper()) {
      return;
    }
    cursor.take("@");
    if (cursor.is("if")) {
      condition();
    } else if (cursor.take("{")) {
      statements();
      cursor.take("}");
    } else if (isDefine()) {
      define();
    } else if (cursor.take("const")) {
      do {
        String name = cursor.word();
        cursor.skip(1);
        if (cursor.take("=")) {
          define(name, expressions.expression());
        }
      } while (cursor.take(","));
      cursor.skipStatement();
    } else if (cursor.word().startsWith("$") && assignment()) {
      cursor.skipStatement();
    } else if (cursor.take("return")) {
      PhpValue value = expressions.expression();
      returned = doubtful == 0 ? Optional.of(value) : returned;
      cursor.skipStatement();
    } else if (PhpExpressions.INCLUDES.contains(cursor.word())) {
      expressions.expression();
      cursor.skipStatement();
    } else if (cursor.is("function") || cursor.is("class")) {
      cursor.skipBlock();
    } else {
      cursor.skipStatement();
    }
    cursor.higher();
  }

  /** {@code define(}, or a class's own way of it, such as {@code Config::define(}. */
  private boolean isDefine() {
    int name = cursor.is("::", 1) ? 3 : 0;
    if (cursor.is("define", name) && cursor.is("(", name + 1)) {
      cursor.skip(name + 2);
      return true;
    }
    return false;
  }

  private void define() {
    PhpValue name = expressions.expression();
    if (cursor.take(",")) {
      PhpValue value = expressions.expression();
      if (name instanceof PhpValue.Text text) {
        define(text.text(), value);
      }
    }
    cursor.skipStatement();
  }

  /** PHP keeps the first definition of a constant. */
  private void define(String name, PhpValue value) {
    known.constants.putIfAbsent(name, doubted(value));
  }

  private PhpValue doubted(PhpValue value) {
    return doubtful == 0
        ? value
        : new PhpValue.Unknown("hangs on the condition in line " + doubtful + " of " + file);
  }

  /** {@code $name = ...}, or {@code $name['key'] = ...}. */
  private boolean assignment() {
    String name = cursor.word();
    int from = cursor.at();
    cursor.skip(1);
    if (cursor.take("=")) {
      known.variables.put(name, doubted(expressions.expression()));
      return true;
    }
    if (cursor.take("[")) {
      PhpValue key = expressions.expression();
      if (cursor.take("]") && cursor.take("=") && key instanceof PhpValue.Text text) {
        PhpValue value = doubted(expressions.expression());
        Map<String, PhpValue> items =
            known.variables.get(name) instanceof PhpValue.Items before
                ? new LinkedHashMap<>(before.items())
                : new LinkedHashMap<>();
        items.put(text.text(), value);
        known.variables.put(name, new PhpValue.Items(items));
        return true;
      }
    }
    cursor.back(from);
    return false;
  }

  /** All branches are gone through; those that nobody can rule out leave doubtful values. */
  private void condition() {
    int line = cursor.line();
    cursor.skip(1);
    cursor.take("(");
    PhpValue value = expressions.expression();
    cursor.skipTo(")");
    cursor.take(")");
    Optional<Boolean> is = PhpExpressions.truth(value);
    branch(is.map(yes -> !yes).orElse(false), is.isEmpty() ? line : 0);
    while (cursor.is("elseif") || cursor.is("else")) {
      boolean again = cursor.is("elseif") || cursor.is("if", 1);
      cursor.skip(cursor.is("elseif") || !again ? 0 : 1);
      boolean ruledOut = is.orElse(false);
      if (again) {
        int before = doubtful;
        int from = cursor.at();
        doubtful = is.isEmpty() ? line : doubtful;
        if (ruledOut) {
          skipCondition();
        } else {
          condition();
        }
        doubtful = before;
        if (cursor.at() == from) {
          cursor.skip(1);
        }
        return;
      }
      cursor.skip(1);
      branch(ruledOut, is.isEmpty() ? line : 0);
    }
    if (cursor.take("endif")) {
      cursor.take(";");
    }
  }

  /** Passes over what an earlier condition ruled out. */
  private void skipCondition() {
    cursor.skip(1);
    cursor.take("(");
    cursor.skipTo(")");
    cursor.take(")");
    branch(true, 0);
    while (cursor.is("elseif") || cursor.is("else")) {
      cursor.skip(1);
      if (cursor.is("if")) {
        cursor.skip(1);
      }
      if (cursor.take("(")) {
        cursor.skipTo(")");
        cursor.take(")");
      }
      branch(true, 0);
    }
    if (cursor.take("endif")) {
      cursor.take(";");
    }
  }

  /**
   * One branch.
   *
   * @param ruledOut whether it is only passed over
   * @param line of a condition that can't be answered; 0 if it holds
   */
  private void branch(boolean ruledOut, int line) {
    if (ruledOut) {
      skipBranch();
      return;
    }
    int before = doubtful;
    doubtful = line == 0 ? doubtful : line;
    if (cursor.take(":")) {
      while (!cursor.atEnd() && !cursor.is("else") && !cursor.is("elseif") && !cursor.is("endif")) {
        int from = cursor.at();
        statement();
        cursor.skip(cursor.at() == from ? 1 : 0);
      }
    } else {
      statement();
    }
    doubtful = before;
  }

  private void skipBranch() {
    if (cursor.is("{")) {
      cursor.skipBlock();
    } else if (cursor.take(":")) {
      while (!cursor.atEnd() && !cursor.is("else") && !cursor.is("elseif") && !cursor.is("endif")) {
        cursor.skip(1);
      }
    } else if (cursor.is("if")) {
      skipCondition();
    } else {
      cursor.skipStatement();
    }
  }
}
