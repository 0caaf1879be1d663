package weftex.cli.config;

import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.Refusal;
import weftex.store.copy.CopySpec;

/**
 * Reads constants and the table prefix from a CMS's PHP config file. Nothing is run: only {@code
 * define('NAME', 'text')} with plain strings and {@code $table_prefix = 'text'} are understood,
 * comments are passed over.
 */
public final class PhpConfig {
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
      return parse(file, SmallFile.read(file));
    } catch (IOException e) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The config file "
              + file
              + " can't be read: "
              + SmallFile.reason(e)
              + ". Nothing was changed.",
          "Correct its path.",
          e);
    }
  }

  static PhpConfig parse(Path file, String php) {
    List<PhpTokens.Token> tokens = PhpTokens.of(php);
    Map<String, String> constants = new HashMap<>();
    Optional<String> prefix = Optional.empty();
    for (int i = 0; i < tokens.size(); i++) {
      if (are(tokens, i, "define", "(", null, ",", null)
          && (is(tokens, i + 5, ")") || is(tokens, i + 5, ","))) {
        // PHP keeps the first definition of a constant.
        constants.putIfAbsent(tokens.get(i + 2).text(), tokens.get(i + 4).text());
      } else if (are(tokens, i, "$table_prefix", "=", null, ";")) {
        prefix = Optional.of(tokens.get(i + 2).text());
      }
    }
    return new PhpConfig(file, constants, prefix);
  }

  /** Whether these words and signs stand in a row; null is any string. */
  private static boolean are(List<PhpTokens.Token> tokens, int at, String... words) {
    for (int i = 0; i < words.length; i++) {
      boolean string = at + i < tokens.size() && tokens.get(at + i).isString();
      if (words[i] == null ? !string : !is(tokens, at + i, words[i])) {
        return false;
      }
    }
    return true;
  }

  private static boolean is(List<PhpTokens.Token> tokens, int at, String word) {
    return at < tokens.size() && !tokens.get(at).isString() && tokens.get(at).text().equals(word);
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
    return port.isEmpty() ? CopySpec.Server.DEFAULT_PORT : Integer.parseInt(port);
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
