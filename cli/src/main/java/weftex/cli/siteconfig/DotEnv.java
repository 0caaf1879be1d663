package weftex.cli.siteconfig;

import io.github.cdimascio.dotenv.Dotenv;
import io.github.cdimascio.dotenv.DotenvEntry;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Variables that a site keeps in a file {@code .env}, not in the environment. */
final class DotEnv {
  private static final String NAME = ".env";

  /** The config file may lie in the site's public folder, or in one below that. */
  private static final int LEVELS = 3;

  private static final Pattern OTHER = Pattern.compile("\\$\\{([A-Za-z_][A-Za-z0-9_]*)}");

  private DotEnv() {}

  /**
   * The environment, with what the nearest such file says beside a config file or above it. What is
   * set in the environment counts first.
   *
   * @throws IOException if the file can't be read
   */
  static Map<String, String> around(Path config, Map<String, String> environment)
      throws IOException {
    Path folder = config.toAbsolutePath().normalize().getParent();
    for (int level = 0; level < LEVELS && folder != null; level++) {
      Path file = folder.resolve(NAME);
      if (Files.isRegularFile(file)) {
        return with(file, environment);
      }
      folder = folder.getParent();
    }
    return environment;
  }

  private static Map<String, String> with(Path file, Map<String, String> environment)
      throws IOException {
    // That it is small and readable is asked before the library takes it.
    SmallFile.read(file);
    Map<String, String> all = new HashMap<>();
    Dotenv said =
        Dotenv.configure()
            .directory(file.getParent().toString())
            .filename(NAME)
            .ignoreIfMalformed()
            .load();
    for (DotenvEntry entry : said.entries(Dotenv.Filter.DECLARED_IN_ENV_FILE)) {
      all.put(entry.getKey(), entry.getValue());
    }
    all.putAll(environment);
    Map<String, String> known = Map.copyOf(all);
    all.replaceAll((name, value) -> environment.containsKey(name) ? value : expanded(value, known));
    return all;
  }

  /** A value with those of the variables that it names; one that is not known stays as it is. */
  private static String expanded(String value, Map<String, String> known) {
    // The library takes double quotes away, not these, in which nothing is expanded.
    boolean literal = value.length() > 1 && value.startsWith("'") && value.endsWith("'");
    if (literal) {
      return value.substring(1, value.length() - 1);
    }
    return OTHER
        .matcher(value)
        .replaceAll(
            found -> Matcher.quoteReplacement(known.getOrDefault(found.group(1), found.group())));
  }
}
