package weftex.cli.config;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.cli.config.PhpTokens.Kind;
import weftex.cli.config.PhpTokens.Token;

/**
 * Reads what a PHP config file says without running it: constants, variables and arrays, other
 * files that it includes, the environment, and conditions about these. Whatever else there is makes
 * the values that hang on it unknown, never a guess.
 */
final class PhpFileReader {
  private static final int DEEPEST = 60;
  private static final int MOST_FILES = 20;

  /** With this file the CMS itself begins; its config is over. */
  private static final String CMS_ITSELF = "wp-settings.php";

  private static final Set<String> INCLUDES =
      Set.of("include", "include_once", "require", "require_once");

  private final Known known;
  private final Path file;
  private final List<Token> tokens;
  private int at;
  private int depth;

  /** The line of a condition that nobody here can answer, while what it decides is read. */
  private int doubtful;

  private Optional<PhpValue> returned = Optional.empty();

  /** What has been read until now, over all files. */
  private static final class Known {
    final Map<String, PhpValue> constants = new HashMap<>();
    final Map<String, PhpValue> variables = new HashMap<>();
    final Map<String, String> environment;
    int files;

    Known(Map<String, String> environment) {
      this.environment = environment;
    }
  }

  private PhpFileReader(Path file, String php, Known known) {
    this.file = file;
    this.tokens = PhpTokens.of(php);
    this.known = known;
  }

  /**
   * Reads a file.
   *
   * @param file where it is, which paths in it may say
   * @param environment what {@code getenv} knows
   * @return constants by their names, and variables by theirs with the dollar sign
   */
  static Map<String, PhpValue> read(Path file, String php, Map<String, String> environment) {
    Known known = new Known(environment);
    PhpFileReader reader = new PhpFileReader(file, php, known);
    while (reader.at < reader.tokens.size() && reader.returned.isEmpty()) {
      reader.statements();
      reader.take("}");
    }
    Map<String, PhpValue> all = new HashMap<>(known.constants);
    all.putAll(known.variables);
    return all;
  }

  private void statements() {
    while (at < tokens.size() && !is("}") && returned.isEmpty()) {
      statement();
    }
  }

  private void statement() {
    if (depth > DEEPEST) {
      at = tokens.size();
      return;
    }
    depth++;
    take("@");
    if (is("if")) {
      condition();
    } else if (take("{")) {
      statements();
      take("}");
    } else if (isDefine()) {
      define();
    } else if (take("const")) {
      do {
        String name = word();
        at++;
        if (take("=")) {
          define(name, expression());
        }
      } while (take(","));
      skipStatement();
    } else if (word().startsWith("$") && assignment()) {
      skipStatement();
    } else if (take("return")) {
      PhpValue value = expression();
      returned = doubtful == 0 ? Optional.of(value) : returned;
      skipStatement();
    } else if (INCLUDES.contains(word())) {
      expression();
      skipStatement();
    } else if (is("function") || is("class")) {
      skipBlock();
    } else {
      skipStatement();
    }
    depth--;
  }

  /** {@code define(}, or a class's own way of it, such as {@code Config::define(}. */
  private boolean isDefine() {
    int name = is("::", at + 1) ? at + 3 : at;
    if (is("define", name) && is("(", name + 1)) {
      at = name + 2;
      return true;
    }
    return false;
  }

  private void define() {
    PhpValue name = expression();
    if (take(",")) {
      PhpValue value = expression();
      if (name instanceof PhpValue.Text text) {
        define(text.text(), value);
      }
    }
    skipStatement();
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
    String name = word();
    int from = at++;
    if (take("=")) {
      known.variables.put(name, doubted(expression()));
      return true;
    }
    if (take("[")) {
      PhpValue key = expression();
      if (take("]") && take("=") && key instanceof PhpValue.Text text) {
        PhpValue value = doubted(expression());
        Map<String, PhpValue> items =
            known.variables.get(name) instanceof PhpValue.Items before
                ? new LinkedHashMap<>(before.items())
                : new LinkedHashMap<>();
        items.put(text.text(), value);
        known.variables.put(name, new PhpValue.Items(items));
        return true;
      }
    }
    at = from;
    return false;
  }

  /** All branches are gone through; those that nobody can rule out leave doubtful values. */
  private void condition() {
    int line = tokens.get(at).line();
    at++;
    take("(");
    PhpValue value = expression();
    skipTo(")");
    take(")");
    Optional<Boolean> is = truth(value);
    branch(is.map(yes -> !yes).orElse(false), is.isEmpty() ? line : 0);
    while (is("elseif") || is("else")) {
      boolean again = is("elseif") || is("if", at + 1);
      at += is("elseif") || !again ? 0 : 1;
      boolean ruledOut = is.orElse(false);
      if (again) {
        int before = doubtful;
        int from = at;
        doubtful = is.isEmpty() ? line : doubtful;
        if (ruledOut) {
          skipCondition();
        } else {
          condition();
        }
        doubtful = before;
        if (at == from) {
          at++;
        }
        return;
      }
      at++;
      branch(ruledOut, is.isEmpty() ? line : 0);
    }
    if (take("endif")) {
      take(";");
    }
  }

  /** Passes over what an earlier condition ruled out. */
  private void skipCondition() {
    at++;
    take("(");
    skipTo(")");
    take(")");
    branch(true, 0);
    while (is("elseif") || is("else")) {
      at++;
      if (is("if")) {
        at++;
      }
      if (take("(")) {
        skipTo(")");
        take(")");
      }
      branch(true, 0);
    }
    if (take("endif")) {
      take(";");
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
    if (take(":")) {
      while (at < tokens.size() && !is("else") && !is("elseif") && !is("endif")) {
        int from = at;
        statement();
        at = at == from ? at + 1 : at;
      }
    } else {
      statement();
    }
    doubtful = before;
  }

  private void skipBranch() {
    if (is("{")) {
      skipBlock();
    } else if (take(":")) {
      while (at < tokens.size() && !is("else") && !is("elseif") && !is("endif")) {
        at++;
      }
    } else if (is("if")) {
      skipCondition();
    } else {
      skipStatement();
    }
  }

  private static Optional<Boolean> truth(PhpValue value) {
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
  private PhpValue expression() {
    if (depth > DEEPEST) {
      at = tokens.size();
      return computed();
    }
    depth++;
    PhpValue value = joined();
    if (is("?") && is("?", at + 1)) {
      at += 2;
      PhpValue otherwise = expression();
      value = value instanceof PhpValue.Unset unset ? byDefault(otherwise, unset) : value;
    } else if (take("?")) {
      value = chosen(value);
    }
    if (!is(";") && !is(",") && !is(")") && !is("]") && !is(":") && at < tokens.size()) {
      if (is("=") && is(">", at + 1)) {
        depth--;
        return value;
      }
      value = computed();
      skipExpression();
    }
    depth--;
    return value;
  }

  /** The end of {@code a ? b : c} or {@code a ?: c}. */
  private PhpValue chosen(PhpValue condition) {
    Optional<Boolean> holds = truth(condition);
    PhpValue yes = condition;
    if (!is(":")) {
      yes = expression();
    }
    boolean shortened = is(":") && yes == condition;
    take(":");
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
    while (take(".")) {
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
    if (at >= tokens.size()) {
      return computed();
    }
    Token token = tokens.get(at++);
    if (token.kind() != Kind.WORD) {
      return token.isString() ? new PhpValue.Text(token.text()) : computed(token.line());
    }
    String word = token.text();
    if (word.equals("@")) {
      return part();
    }
    if (word.equals("(")) {
      PhpValue value = expression();
      skipTo(")");
      take(")");
      return value;
    }
    if (word.equals("!")) {
      return truth(part()).<PhpValue>map(is -> new PhpValue.Truth(!is)).orElse(computed());
    }
    if (word.equals("[")) {
      return items("]");
    }
    if (word.equals("array") && take("(")) {
      return items(")");
    }
    if (word.startsWith("$")) {
      return member(word);
    }
    if (INCLUDES.contains(word)) {
      return included(expression());
    }
    if (take("(")) {
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
    while (take("[")) {
      PhpValue key = expression();
      take("]");
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
    while (at < tokens.size() && !is(end)) {
      int from = at;
      PhpValue value = expression();
      if (is("=") && is(">", at + 1)) {
        at += 2;
        String key = value instanceof PhpValue.Text text ? text.text() : "";
        items.put(key, expression());
      } else {
        items.put(String.valueOf(items.size()), value);
      }
      take(",");
      at = at == from ? at + 1 : at;
    }
    take(end);
    return new PhpValue.Items(items);
  }

  /** A function of those that only look something up. */
  private PhpValue called(String function, int line) {
    PhpValue first = is(")") ? computed(line) : expression();
    Optional<PhpValue> second = take(",") ? Optional.of(expression()) : Optional.empty();
    skipTo(")");
    take(")");
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
      at = tokens.size();
      return computed();
    }
    if (path.isEmpty() || !Files.isRegularFile(path.get()) || ++known.files > MOST_FILES) {
      return computed();
    }
    try {
      PhpFileReader reader = new PhpFileReader(path.get(), SmallFile.read(path.get()), known);
      reader.doubtful = doubtful;
      reader.depth = depth;
      reader.statements();
      return reader.returned.orElse(new PhpValue.Truth(true));
    } catch (IOException e) {
      return new PhpValue.Unknown(
          "is in " + path.get() + ", which can't be read: " + SmallFile.reason(e));
    }
  }

  private PhpValue computed() {
    return computed(at < tokens.size() ? tokens.get(at).line() : 0);
  }

  private PhpValue computed(int line) {
    return new PhpValue.Unknown(
        "is computed" + (line == 0 ? "" : " in line " + line) + " of " + file);
  }

  private void skipStatement() {
    skipTo(";");
    take(";");
  }

  private void skipExpression() {
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
  private void skipTo(String sign) {
    int level = 0;
    while (at < tokens.size()) {
      if (level == 0 && (is(sign) || is("}"))) {
        return;
      }
      level += opens() ? 1 : closes() && level > 0 ? -1 : 0;
      at++;
    }
  }

  private void skipBlock() {
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

  private String word() {
    return at < tokens.size() && tokens.get(at).kind() == Kind.WORD ? tokens.get(at).text() : "";
  }

  private boolean take(String word) {
    if (is(word)) {
      at += word.equals("::") ? 2 : 1;
      return true;
    }
    return false;
  }

  private boolean is(String word) {
    return is(word, at);
  }

  private boolean is(String word, int index) {
    if (word.equals("::")) {
      return is(":", index) && is(":", index + 1);
    }
    return index < tokens.size()
        && tokens.get(index).kind() == Kind.WORD
        && tokens.get(index).text().equals(word);
  }
}
