package weftex.cli.siteconfig;

import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;

/**
 * A CMS's own PHP config file: where its database is, its table prefix and the address that it
 * fixes. Nothing is run; {@link PhpFileReader} says what is understood.
 */
public final class PhpConfig {
  private static final Pattern HOST =
      Pattern.compile("(\\[[0-9a-fA-F:.]+\\]|[^:]*)(?::(\\d{1,5}))?(?::(/.*))?");
  private static final Pattern BARE_IPV6 = Pattern.compile("[0-9a-fA-F]*(?::[0-9a-fA-F.]*){2,}");

  private final Path file;
  private final Map<String, PhpValue> values;
  private final Set<String> notes = new LinkedHashSet<>();

  private PhpConfig(Path file, Map<String, PhpValue> values) {
    this.file = file;
    this.values = values;
  }

  /**
   * Reads a file.
   *
   * @param environment what it may look up, beside a file {@code .env}
   * @throws Refusal if it can't be read
   */
  public static PhpConfig read(Path file, Map<String, String> environment) throws Refusal {
    try {
      return parse(file, SmallFile.read(file), DotEnv.around(file, environment));
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

  static PhpConfig parse(Path file, String php, Map<String, String> environment) {
    return new PhpConfig(file, PhpFileReader.read(file, php, environment));
  }

  /** What was taken under a reserve until now, as sentences. */
  public List<String> notes() {
    return List.copyOf(notes);
  }

  private String constant(String name) throws Refusal {
    PhpValue value = values.get(name);
    if (value instanceof PhpValue.Text text) {
      if (!text.reserve().isEmpty()) {
        notes.add(
            name + " is the file's default, '" + text.text() + "', since " + text.reserve() + ".");
      }
      return text.text();
    }
    if (value instanceof PhpValue.Unset unset) {
      throw unknown(
          name + " comes from the variable " + unset.variable() + ", which is not set here",
          "Set " + unset.variable() + ", or give the value by hand.");
    }
    throw unknown(
        value instanceof PhpValue.Unknown unknown
            ? name + " " + unknown.why()
            : value == null
                ? "The config file " + file + " does not define " + name
                : name + " is no text in the config file " + file,
        "Give the value by hand.");
  }

  private static Refusal unknown(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + ". Nothing was changed.", next);
  }

  public String database() throws Refusal {
    return constant("DB_NAME");
  }

  public String user() throws Refusal {
    return constant("DB_USER");
  }

  public String password() throws Refusal {
    return values.get("DB_PASSWORD") instanceof PhpValue.Text text
        ? text.text()
        : constant("DB_PASSWORD");
  }

  /** The host alone, or the path of a local socket. */
  public String host() throws Refusal {
    String said = constant("DB_HOST");
    if (BARE_IPV6.matcher(said).matches()) {
      return said;
    }
    Matcher parts = HOST.matcher(said);
    if (!parts.matches()) {
      throw unknown(
          "DB_HOST is '" + said + "' in the config file " + file + ", which is no host",
          "Give the value by hand.");
    }
    if (parts.group(3) != null) {
      return parts.group(3);
    }
    String host = parts.group(1).replaceAll("[\\[\\]]", "");
    return host.isEmpty() || host.equals("localhost") ? "127.0.0.1" : host;
  }

  public int port() throws Refusal {
    Matcher parts = HOST.matcher(constant("DB_HOST"));
    return parts.matches() && parts.group(2) != null
        ? Integer.parseInt(parts.group(2))
        : CopySpec.Server.DEFAULT_PORT;
  }

  /**
   * The table prefix; empty if the file sets none.
   *
   * @throws Refusal if only a run could tell which
   */
  public String prefix() throws Refusal {
    return values.containsKey("$table_prefix") ? constant("$table_prefix") : "";
  }

  /** The address that the file fixes, whatever the site's settings say. */
  public Optional<String> address() {
    for (String name : List.of("WP_HOME", "WP_SITEURL")) {
      if (values.get(name) instanceof PhpValue.Text text && text.reserve().isEmpty()) {
        return Optional.of(text.text());
      }
    }
    return Optional.empty();
  }
}
