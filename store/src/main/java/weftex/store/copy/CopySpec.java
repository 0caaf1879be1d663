package weftex.store.copy;

import java.nio.file.Path;

/** Where a copy of the site is. */
public sealed interface CopySpec {

  /** {@code staging} or {@code live}. */
  String name();

  /** What the names of its tables begin with; may be empty. */
  String prefix();

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
      Tls tls)
      implements CopySpec {
    /** Where servers of this kind answer unless told otherwise. */
    public static final int DEFAULT_PORT = 3306;

    @Override
    public String place() {
      return "mariadb " + host + ":" + port + " database " + database + prefixWords(prefix);
    }
  }

  /** A copy in an SQLite file. */
  record SqliteFile(String name, String prefix, Path file) implements CopySpec {
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
