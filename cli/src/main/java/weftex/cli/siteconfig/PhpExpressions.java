package weftex.cli.siteconfig;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.cli.siteconfig.PhpTokens.Kind;
import weftex.cli.siteconfig.PhpTokens.Token;

/**
 * What the expressions of a PHP config file stand for: texts, constants, variables and members of
 * arrays, the environment, functions that only look something up, and what another file returns.
 */
final class PhpExpressions {
  private static final int MOST_FILES = 20;

  /** With this file the CMS itself begins; its config is over. */
  private static final String CMS_ITSELF = "wp-settings.php";

  /** Words before the path of a file that is read as if it stood here. */
  static final Set<String> INCLUDES = Set.of("include", "include_once", "require", "require_once");

  private final Path file;
  private final PhpCursor cursor;
  private final PhpKnown known;
  private final Including including;

  /** Reads another file as if it stood here, and says what it returns. */
  interface Including {
    PhpValue include(Path file, String php);
  }

  PhpExpressions(Path file, PhpCursor cursor, PhpKnown known, Including including) {
    this.file = file;
    this.cursor = cursor;
    this.known = known;
    this.including = including;
  }

  static Optional<Boolean> truth(PhpValue value) {
    if (value instanceof PhpValue.Truth truth) {
      return Optional.of(truth.is());
    }
    if (value instanceof PhpValue.Text text) {
      return Optional.of(!text.text().isEmpty() && !text.text().equals("0"));
    }
    if (value instanceof PhpValue.Items items) {
      return Optional.of(!items.items().isEmpty());
    }
    return Optional.empty();
  }

  /** An expression, up to what ends it. */
  PhpValue expression() {
    if (!cursor.deeper()) {
      return computed();
    }
    PhpValue value = joined();
    if (cursor.is("?") && cursor.is("?", 1)) {
      cursor.skip(2);
      PhpValue otherwise = expression();
      value = value instanceof PhpValue.Unset unset ? byDefault(otherwise, unset) : value;
    } else if (cursor.take("?")) {
      value = chosen(value);
    }
    if (!cursor.is(";")
        && !cursor.is(",")
        && !cursor.is(")")
        && !cursor.is("]")
        && !cursor.is(":")
        && !cursor.atEnd()) {
      if (cursor.is("=") && cursor.is(">", 1)) {
        cursor.higher();
        return value;
      }
      value = computed();
      cursor.skipExpression();
    }
    cursor.higher();
    return value;
  }

  /** The end of {@code a ? b : c} or {@code a ?: c}. */
  private PhpValue chosen(PhpValue condition) {
    Optional<Boolean> holds = truth(condition);
    PhpValue yes = condition;
    if (!cursor.is(":")) {
      yes = expression();
    }
    boolean shortened = cursor.is(":") && yes == condition;
    cursor.take(":");
    PhpValue no = expression();
    if (shortened && condition instanceof PhpValue.Unset unset) {
      return byDefault(no, unset);
    }
    return holds.isEmpty() ? computed() : holds.get() ? yes : no;
  }

  /**
   * What the file says for the case that a variable is not set, which may be the case only here.
   */
  private static PhpValue byDefault(PhpValue value, PhpValue.Unset unset) {
    return value instanceof PhpValue.Text text
        ? text.with("the variable " + unset.variable() + " is not set here")
        : value;
  }

  private PhpValue joined() {
    PhpValue value = part();
    while (cursor.take(".")) {
      PhpValue next = part();
      value =
          value instanceof PhpValue.Text left && next instanceof PhpValue.Text right
              ? new PhpValue.Text(left.text() + right.text(), left.reserve()).with(right.reserve())
              : next instanceof PhpValue.Text ? value : next;
      if (value instanceof PhpValue.Items || value instanceof PhpValue.Truth) {
        value = computed();
      }
    }
    return value;
  }

  private PhpValue part() {
    if (cursor.atEnd()) {
      return computed();
    }
    Token token = cursor.next();
    if (token.kind() != Kind.WORD) {
      return token.isString() ? new PhpValue.Text(token.text()) : computed(token.line());
    }
    String word = token.text();
    if (word.equals("@")) {
      return part();
    }
    if (word.equals("(")) {
      PhpValue value = expression();
      cursor.skipTo(")");
      cursor.take(")");
      return value;
    }
    if (word.equals("!")) {
      return truth(part()).<PhpValue>map(is -> new PhpValue.Truth(!is)).orElse(computed());
    }
    if (word.equals("[")) {
      return items("]");
    }
    if (word.equals("array") && cursor.take("(")) {
      return items(")");
    }
    if (word.startsWith("$")) {
      return member(word);
    }
    if (INCLUDES.contains(word)) {
      return included(expression());
    }
    if (cursor.take("(")) {
      return called(word.toLowerCase(Locale.ROOT), token.line());
    }
    return named(word, token.line());
  }

  private PhpValue named(String word, int line) {
    if (word.matches("\\d{1,18}")) {
      return new PhpValue.Text(word);
    }
    return switch (word.toLowerCase(Locale.ROOT)) {
      case "true" -> new PhpValue.Truth(true);
      case "false", "null" -> new PhpValue.Truth(false);
      case "__dir__" -> new PhpValue.Text(folder().toString());
      case "__file__" -> new PhpValue.Text(file.toAbsolutePath().normalize().toString());
      default -> known.constants.getOrDefault(word, computed(line));
    };
  }

  private Path folder() {
    return file.toAbsolutePath().normalize().getParent();
  }

  /** A variable, or a member of it by constant keys. */
  private PhpValue member(String name) {
    boolean environment = name.equals("$_ENV") || name.equals("$_SERVER");
    PhpValue value = known.variables.getOrDefault(name, computed());
    while (cursor.take("[")) {
      PhpValue key = expression();
      cursor.take("]");
      if (!(key instanceof PhpValue.Text text)) {
        value = computed();
      } else if (environment) {
        value = environment(text.text());
      } else {
        value =
            value instanceof PhpValue.Items items
                ? items.items().getOrDefault(text.text(), computed())
                : value;
      }
    }
    return value;
  }

  private PhpValue items(String end) {
    Map<String, PhpValue> items = new LinkedHashMap<>();
    while (!cursor.atEnd() && !cursor.is(end)) {
      int from = cursor.at();
      PhpValue value = expression();
      if (cursor.is("=") && cursor.is(">", 1)) {
        cursor.skip(2);
        String key = value instanceof PhpValue.Text text ? text.text() : "";
        items.put(key, expression());
      } else {
        items.put(String.valueOf(items.size()), value);
      }
      cursor.take(",");
      cursor.skip(cursor.at() == from ? 1 : 0);
    }
    cursor.take(end);
    return new PhpValue.Items(items);
  }

  /** A function of those that only look something up. */
  private PhpValue called(String function, int line) {
    PhpValue first = cursor.is(")") ? computed(line) : expression();
    Optional<PhpValue> second = cursor.take(",") ? Optional.of(expression()) : Optional.empty();
    cursor.skipTo(")");
    cursor.take(")");
    if (!(first instanceof PhpValue.Text text)) {
      return first instanceof PhpValue.Unset ? first : computed(line);
    }
    if (function.startsWith("getenv") || function.equals("env")) {
      PhpValue found = environment(text.text());
      return found instanceof PhpValue.Unset unset && !function.equals("getenv")
          ? second.map(otherwise -> byDefault(otherwise, unset)).orElse(found)
          : found;
    }
    return switch (function) {
      case "defined" -> {
        PhpValue constant = known.constants.get(text.text());
        yield constant instanceof PhpValue.Unknown
            ? constant
            : new PhpValue.Truth(constant != null);
      }
      case "file_exists", "is_readable", "is_file" ->
          path(text.text())
              .<PhpValue>map(path -> new PhpValue.Truth(Files.exists(path)))
              .orElse(computed(line));
      case "dirname" ->
          path(text.text())
              .map(Path::getParent)
              .<PhpValue>map(path -> new PhpValue.Text(path.toString()))
              .orElse(computed(line));
      case "trim", "strval" -> new PhpValue.Text(text.text().strip());
      default -> computed(line);
    };
  }

  private PhpValue environment(String variable) {
    String value = known.environment.get(variable);
    return value == null ? new PhpValue.Unset(variable) : new PhpValue.Text(value);
  }

  private Optional<Path> path(String text) {
    try {
      return Optional.of(folder().resolve(text).normalize());
    } catch (InvalidPathException e) {
      return Optional.empty();
    }
  }

  /** Reads another file as if it stood here; what it returns, if it returns something. */
  private PhpValue included(PhpValue named) {
    Optional<Path> path =
        named instanceof PhpValue.Text text ? path(text.text()) : Optional.<Path>empty();
    if (path.filter(p -> p.endsWith(CMS_ITSELF)).isPresent()) {
      cursor.end();
      return computed();
    }
    if (path.isEmpty() || !Files.isRegularFile(path.get()) || ++known.files > MOST_FILES) {
      return computed();
    }
    try {
      return including.include(path.get(), SmallFile.read(path.get()));
    } catch (IOException e) {
      return new PhpValue.Unknown(
          "is in " + path.get() + ", which can't be read: " + SmallFile.reason(e));
    }
  }

  private PhpValue computed() {
    return computed(cursor.line());
  }

  private PhpValue computed(int line) {
    return new PhpValue.Unknown(
        "is computed" + (line == 0 ? "" : " in line " + line) + " of " + file);
  }
}
