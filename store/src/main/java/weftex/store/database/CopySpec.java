package weftex.store.database;

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

  /**
   * The same place in another database.
   *
   * @param database its name on the server, or where its file is
   */
  CopySpec inDatabase(String database);

  /** The place in words, without any secret: what a change set remembers its target by. */
  String place();

  /** The same place, holding the rows of a file. */
  CopySpec withOrigin(Origin origin);

  /** Where the rows come from, if this database holds them for a while alone. */
  Optional<Origin> origin();

  /** A file whose rows are loaded into a database of their own before they are looked at. */
  interface Origin {
    /** The file in words. */
    String place();

    /**
     * Loads what is not loaded yet.
     *
     * @throws weftex.store.Refusal if the file is not there, or is none that can be loaded
     */
    void load() throws weftex.store.Refusal;
  }

  /**
   * A copy on a MariaDB or MySQL server.
   *
   * @param host a name, a number, or the absolute path of a socket on this machine
   * @param port without meaning for a socket
   * @param ssh the machine from which host, port and socket are meant; empty for this one
   */
  record Server(
      String name,
      String prefix,
      Line line,
      String database,
      Login login,
      List<String> shared,
      Optional<Origin> origin)
      implements CopySpec {

    /**
     * How the server is reached.
     *
     * @param host or the path of a socket
     * @param ssh the machine over which it is; empty for none
     */
    public record Line(String host, int port, Tls tls, Optional<SshHost> ssh) {}

    /** Who asks. */
    public record Login(String user, Password password) {}

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
      this(
          name,
          prefix,
          new Line(host, port, tls, Optional.empty()),
          database,
          new Login(user, password),
          List.of(),
          Optional.empty());
    }

    @Override
    public CopySpec withPrefix(String other) {
      return new Server(name, other, line, database, login, List.of(), origin);
    }

    @Override
    public CopySpec withOrigin(Origin of) {
      return new Server(name, prefix, line, database, login, shared, Optional.of(of));
    }

    @Override
    public CopySpec inDatabase(String other) {
      return new Server(name, prefix, line, other, login, shared, origin);
    }

    public String host() {
      return line.host();
    }

    public int port() {
      return line.port();
    }

    public Tls tls() {
      return line.tls();
    }

    public Optional<SshHost> ssh() {
      return line.ssh();
    }

    public String user() {
      return login.user();
    }

    public Password password() {
      return login.password();
    }

    /** Where servers of this kind answer unless told otherwise. */
    public static final int DEFAULT_PORT = 3306;

    /** Whether the server is reached by a socket, on this machine or behind a line over SSH. */
    public boolean isSocket() {
      return host().startsWith("/");
    }

    /** Where it answers, in words. */
    public String address() {
      return isSocket() ? host() : host() + ":" + port();
    }

    @Override
    public String place() {
      String over = ssh().map(machine -> " over ssh " + machine.words()).orElse("");
      return origin
              .map(Origin::place)
              .orElse("mariadb " + address() + over + " database " + database)
          + prefixWords(prefix);
    }
  }

  /** A copy in an SQLite file. */
  record SqliteFile(
      String name, String prefix, Path file, List<String> shared, Optional<Origin> origin)
      implements CopySpec {
    /** A copy of a site that stands alone. */
    public SqliteFile(String name, String prefix, Path file) {
      this(name, prefix, file, List.of(), Optional.empty());
    }

    @Override
    public CopySpec withPrefix(String other) {
      return new SqliteFile(name, other, file, List.of(), origin);
    }

    @Override
    public CopySpec inDatabase(String other) {
      return new SqliteFile(name, prefix, Path.of(other), shared, origin);
    }

    @Override
    public CopySpec withOrigin(Origin of) {
      return new SqliteFile(name, prefix, file, shared, Optional.of(of));
    }

    @Override
    public String place() {
      return origin
              .map(Origin::place)
              .orElseGet(() -> "sqlite " + file.toAbsolutePath().normalize())
          + prefixWords(prefix);
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
