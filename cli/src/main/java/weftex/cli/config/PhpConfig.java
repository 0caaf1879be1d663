package weftex.cli.config;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.Refusal;

/**
 * Reads constants and the table prefix from a CMS's PHP config file. Nothing is run: only {@code
 * define('NAME', 'text')} with plain strings and {@code $table_prefix = 'text'} are understood,
 * comments are passed over.
 */
public final class PhpConfig {
  /** Strings first, so that a comment sign inside a string is none. */
  private static final Pattern TOKEN =
      Pattern.compile(
          "'(?:[^'\\\\]|\\\\.)*'|\"(?:[^\"\\\\]|\\\\.)*\"|/\\*.*?\\*/|//[^\\n]*|#[^\\n]*",
          Pattern.DOTALL);

  private static final String STRING = "('(?:[^'\\\\]|\\\\.)*'|\"(?:[^\"\\\\]|\\\\.)*\")";
  private static final Pattern DEFINE =
      Pattern.compile(
          "\\bdefine\\s*\\(\\s*" + STRING + "\\s*,\\s*" + STRING + "\\s*[,)]", Pattern.DOTALL);
  private static final Pattern PREFIX =
      Pattern.compile("\\$table_prefix\\s*=\\s*" + STRING + "\\s*;", Pattern.DOTALL);
  private static final Pattern HOST = Pattern.compile("([^:]*)(?::(\\d+))?(?::(/.*))?");

  private final Path file;
  private final Map<String, String> constants;
  private final Optional<String> prefix;

  private PhpConfig(Path file, Map<String, String> constants, Optional<String> prefix) {
    this.file = file;
    this.constants = constants;
    this.prefix = prefix;
  }

  /** Reads a file; throws {@link Refusal} if it can't be read. */
  public static PhpConfig read(Path file) throws Refusal {
    try {
      return parse(file, new String(Files.readAllBytes(file), StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The config file "
              + file
              + " can't be read: "
              + e.getClass().getSimpleName()
              + ". Nothing was changed.",
          "Correct its path.",
          e);
    }
  }

  static PhpConfig parse(Path file, String php) {
    String code =
        TOKEN
            .matcher(php)
            .replaceAll(
                m -> Matcher.quoteReplacement(m.group().matches("(?s)['\"].*") ? m.group() : " "));
    Map<String, String> constants = new HashMap<>();
    Matcher define = DEFINE.matcher(code);
    while (define.find()) {
      // PHP keeps the first definition of a constant.
      constants.putIfAbsent(unquoted(define.group(1)), unquoted(define.group(2)));
    }
    Optional<String> prefix = Optional.empty();
    Matcher assignment = PREFIX.matcher(code);
    while (assignment.find()) {
      prefix = Optional.of(unquoted(assignment.group(1)));
    }
    return new PhpConfig(file, constants, prefix);
  }

  private static String unquoted(String literal) {
    String body = literal.substring(1, literal.length() - 1);
    return literal.charAt(0) == '\''
        ? body.replaceAll("\\\\(['\\\\])", "$1")
        : body.replaceAll("\\\\([\"\\\\$])", "$1");
  }

  private String constant(String name) throws Refusal {
    String value = constants.get(name);
    if (value == null) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The config file "
              + file
              + " does not define "
              + name
              + " as a plain text. Nothing was changed.",
          "Give the value by hand.");
    }
    return value;
  }

  public String database() throws Refusal {
    return constant("DB_NAME");
  }

  public String user() throws Refusal {
    return constant("DB_USER");
  }

  public String password() throws Refusal {
    return constant("DB_PASSWORD");
  }

  /** The host alone; a local socket becomes this machine's own address. */
  public String host() throws Refusal {
    String host = hostPart(1);
    return host.isEmpty() || host.equals("localhost") ? "127.0.0.1" : host;
  }

  public int port() throws Refusal {
    String port = hostPart(2);
    return port.isEmpty() ? 3306 : Integer.parseInt(port);
  }

  private String hostPart(int group) throws Refusal {
    Matcher host = HOST.matcher(constant("DB_HOST"));
    return host.matches() && host.group(group) != null ? host.group(group) : "";
  }

  /** The table prefix; empty if the file sets none. */
  public String prefix() {
    return prefix.orElse("");
  }
}
