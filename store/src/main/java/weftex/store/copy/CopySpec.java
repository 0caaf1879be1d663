package weftex.store.copy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Where a copy of the site is. */
public sealed interface CopySpec {

  /** {@code staging} or {@code live}. */
  String name();

  /** What the names of its tables begin with; may be empty. */
  String prefix();

  /**
   * Tables that all sites under one roof have in common, without prefix: where the prefix ends with
   * a number ({@code wp_2_}), they are looked for under what stands before it.
   */
  List<String> shared();

  /** The same place under another prefix. */
  CopySpec withPrefix(String prefix);

  /**
   * The prefix of what all sites under one roof have in common; empty where this is no such site.
   */
  default Optional<String> outerPrefix() {
    Matcher numbered = NUMBERED.matcher(prefix());
    return numbered.matches() ? Optional.of(numbered.group(1)) : Optional.empty();
  }

  /** The prefix of one of the sites under one roof. */
  Pattern NUMBERED = Pattern.compile("(.*?)\\d+_");

  /** The place in words, without any secret: what a change set remembers its target by. */
  String place();

  /** A copy on a MariaDB or MySQL server. */
  record Server(
      String name,
      String prefix,
      String host,
      int port,
      String database,
      String user,
      Password password,
      Tls tls,
      List<String> shared)
      implements CopySpec {
    /** A copy of a site that stands alone. */
    public Server(
        String name,
        String prefix,
        String host,
        int port,
        String database,
        String user,
        Password password,
        Tls tls) {
      this(name, prefix, host, port, database, user, password, tls, List.of());
    }

    @Override
    public CopySpec withPrefix(String other) {
      return new Server(name, other, host, port, database, user, password, tls, List.of());
    }

    /** Where servers of this kind answer unless told otherwise. */
    public static final int DEFAULT_PORT = 3306;

    @Override
    public String place() {
      return "mariadb " + host + ":" + port + " database " + database + prefixWords(prefix);
    }
  }

  /** A copy in an SQLite file. */
  record SqliteFile(String name, String prefix, Path file, List<String> shared)
      implements CopySpec {
    /** A copy of a site that stands alone. */
    public SqliteFile(String name, String prefix, Path file) {
      this(name, prefix, file, List.of());
    }

    @Override
    public CopySpec withPrefix(String other) {
      return new SqliteFile(name, other, file, List.of());
    }

    @Override
    public String place() {
      return "sqlite " + file.toAbsolutePath().normalize() + prefixWords(prefix);
    }
  }

  /** Where a password comes from; it is fetched when it is needed and never kept. */
  interface Password {
    /** The password; throws {@link weftex.store.Refusal} if it can't be had. */
    String fetch() throws weftex.store.Refusal;

    /** The source in words, such as {@code the variable LIVE_PASSWORD}. */
    String source();
  }

  private static String prefixWords(String prefix) {
    return prefix.isEmpty() ? "" : " prefix " + prefix;
  }
}
