package weftex.store.mariadb;

import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import weftex.core.yaml.Nearest;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.database.Tls;
import weftex.store.ssh.SshLine;
import weftex.store.ssh.SshLines;

/** Logs in to a server, and says in a sentence of its own what stands in the way. */
final class ServerLogin {
  static final int ACCESS_DENIED = 1045;
  private static final int NO_RIGHT_TO_DATABASE = 1044;
  private static final int HOST_NOT_ALLOWED = 1130;
  private static final int CONNECT_TIMEOUT_MS = 10_000;

  /** Measured: fewer and larger reads spare both ends a third of their system calls. */
  private static final int RECEIVE_BUFFER = 1 << 20;

  private ServerLogin() {}

  static Connection open(CopySpec.Server spec) throws Refusal {
    Connection connection = logIn(spec, spec.password().fetch());
    try {
      if (!use(connection, spec.database())) {
        throw wrongDatabase(connection, spec);
      }
      MariaDbDialect.prepareSession(connection);
      return connection;
    } catch (SQLException e) {
      Connecting.close(connection);
      throw Connecting.refusal(
          spec, "the session can't be set up: " + FailureWords.of(e), "See the server's log.", e);
    } catch (Refusal e) {
      Connecting.close(connection);
      throw e;
    }
  }

  /** A connection to no database, for making one. */
  static Connection withoutDatabase(CopySpec.Server spec) throws Refusal {
    return logIn(spec, spec.password().fetch());
  }

  /**
   * Login methods that show nobody the password: the server gets an answer that is of use only
   * once.
   */
  private static final String REVEALING_NOTHING =
      "mysql_native_password,client_ed25519,parsec,caching_sha2_password";

  /** Logs in without a database, so that a wrong database name is told apart from a wrong login. */
  private static Connection logIn(CopySpec.Server spec, String password) throws Refusal {
    if (spec.ssh().isPresent()) {
      return logInOverLine(spec, password);
    }
    try {
      return connect(spec, spec.tls(), password);
    } catch (SQLException e) {
      throw explain(spec, e, password);
    }
  }

  private static Connection logInOverLine(CopySpec.Server spec, String password) throws Refusal {
    for (boolean again = false; ; again = true) {
      SshLine line = SshLines.to(spec);
      try {
        return connect(spec, spec.tls(), password);
      } catch (SQLException e) {
        if (e.getErrorCode() > 0) {
          throw explain(spec, e, password);
        }
        // One that was cut a moment ago is made anew, once.
        if (again || !line.endsSoon()) {
          throw explainLine(spec, e);
        }
      }
    }
  }

  private static Refusal explainLine(CopySpec.Server spec, SQLException e) throws Refusal {
    Optional<Refusal> problem = SshLines.to(spec).problem(spec, e);
    return problem.orElseGet(
        () ->
            Connecting.refusal(
                spec,
                "what answers at "
                    + spec.address()
                    + " behind "
                    + spec.ssh().get().words()
                    + " is not a MariaDB or MySQL server ("
                    + FailureWords.of(e)
                    + ")",
                "Correct 'host' or 'port' of " + spec.name() + " in weftex.yaml.",
                e));
  }

  private static Connection connect(CopySpec.Server spec, Tls tls, String password)
      throws SQLException, Refusal {
    Properties options = new Properties();
    options.setProperty("user", spec.user());
    options.setProperty("password", password);
    VerifiedTls.options(tls, options);
    if (!tls.isProtected()) {
      options.setProperty("restrictedAuth", REVEALING_NOTHING);
    }
    options.setProperty("connectTimeout", String.valueOf(CONNECT_TIMEOUT_MS));
    options.setProperty("useServerPrepStmts", "true");
    options.setProperty("useBulkStmts", "true");
    options.setProperty("tinyInt1isBit", "false");
    options.setProperty("yearIsDateType", "false");
    options.setProperty("transformedBitIsBoolean", "false");
    options.setProperty("allowLocalInfile", "false");
    options.setProperty("tcpKeepAlive", "true");
    options.setProperty("tcpRcvBuf", String.valueOf(RECEIVE_BUFFER));
    if (spec.ssh().isPresent()) {
      options.setProperty("localSocket", SshLines.to(spec).socket().toString());
      return DriverManager.getConnection("jdbc:mariadb://localhost/", options);
    }
    if (spec.isSocket()) {
      options.setProperty("localSocket", spec.host());
      return DriverManager.getConnection("jdbc:mariadb://localhost/", options);
    }
    String host = spec.host().contains(":") ? "[" + spec.host() + "]" : spec.host();
    return DriverManager.getConnection("jdbc:mariadb://" + host + ":" + spec.port() + "/", options);
  }

  private static Refusal explain(CopySpec.Server spec, SQLException e, String password) {
    String keys = " of " + spec.name() + " in weftex.yaml.";
    Optional<Refusal> line = LineProblem.of(spec, e);
    if (line.isPresent()) {
      return line.get();
    }
    if (e.getErrorCode() == ACCESS_DENIED
        && spec.tls().verify() == Tls.Verify.OFF
        && opens(spec, password)) {
      return LineProblem.mustUseTls(spec, e);
    }
    if (e.getErrorCode() == ACCESS_DENIED) {
      return Connecting.refusal(
          spec,
          "the server is there, but refuses user '"
              + spec.user()
              + "' with "
              + (password.isEmpty()
                  ? "an empty password"
                  : "the password from " + spec.password().source()),
          "Correct 'user' or 'password'"
              + keys
              + " The server does not say which of the two is wrong.",
          e);
    }
    if (e.getErrorCode() == HOST_NOT_ALLOWED) {
      return Connecting.refusal(
          spec,
          "the server is there, but lets nobody in from this machine",
          "Ask for access from here, or use a tunnel and correct 'host'" + keys,
          e);
    }
    return spec.isSocket() ? atSocket(spec, e, keys) : atPort(spec, e, keys);
  }

  private static Refusal atSocket(CopySpec.Server spec, SQLException e, String keys) {
    boolean isThere = Files.exists(Path.of(spec.host()));
    return Connecting.refusal(
        spec,
        isThere
            ? "nothing answers at the socket " + spec.host() + " (" + FailureWords.of(e) + ")"
            : "there is no socket " + spec.host(),
        "Correct 'host'" + keys + " The server may not be running, or have it elsewhere.",
        e);
  }

  private static Refusal atPort(CopySpec.Server spec, SQLException e, String keys) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof UnknownHostException) {
        return Connecting.refusal(
            spec, "no host is called '" + spec.host() + "'", "Correct 'host'" + keys, e);
      }
      if (cause instanceof ConnectException) {
        return Connecting.refusal(
            spec,
            "host '" + spec.host() + "' is there, but nothing answers on port " + spec.port(),
            "Correct 'port'" + keys,
            e);
      }
      if (cause instanceof SocketTimeoutException || cause instanceof NoRouteToHostException) {
        return Connecting.refusal(
            spec,
            "host '"
                + spec.host()
                + "' does not answer on port "
                + spec.port()
                + " within "
                + CONNECT_TIMEOUT_MS / 1000
                + " seconds",
            "Correct 'host' or 'port'" + keys + " A firewall may stand between.",
            e);
      }
    }
    if (String.valueOf(e.getMessage()).contains("Connection reset")) {
      return Connecting.refusal(
          spec,
          "host '"
              + spec.host()
              + "' cut the connection on port "
              + spec.port()
              + " before it was made ("
              + FailureWords.of(e)
              + ")",
          "Try again: the server may be starting or stopping. If it stays so, correct 'port'"
              + keys,
          e);
    }
    return Connecting.refusal(
        spec,
        "what answers at "
            + spec.host()
            + ":"
            + spec.port()
            + " is not a MariaDB or MySQL server ("
            + FailureWords.of(e)
            + ")",
        "Correct 'port'" + keys,
        e);
  }

  /** Whether the same user gets in over an encrypted line. */
  private static boolean opens(CopySpec.Server spec, String password) {
    try (Connection connection = connect(spec, Tls.UNVERIFIED, password)) {
      return connection.isValid(1);
    } catch (SQLException | Refusal e) {
      return false;
    }
  }

  private static boolean use(Connection connection, String database) throws SQLException {
    if (!visibleDatabases(connection).contains(database)) {
      return false;
    }
    try {
      connection.setCatalog(database);
      return true;
    } catch (SQLException e) {
      if (e.getErrorCode() == NO_RIGHT_TO_DATABASE) {
        return false;
      }
      throw e;
    }
  }

  private static List<String> visibleDatabases(Connection connection) throws SQLException {
    List<String> names = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SELECT SCHEMA_NAME FROM information_schema.SCHEMATA")) {
      while (rows.next()) {
        names.add(rows.getString(1));
      }
    }
    return names;
  }

  private static Refusal wrongDatabase(Connection connection, CopySpec.Server spec)
      throws SQLException {
    if (isGuest(connection)) {
      return Connecting.refusal(
          spec,
          "the server has no user '"
              + spec.user()
              + "', and accepts unknown users only as anonymous",
          "Correct 'user' of " + spec.name() + " in weftex.yaml.",
          null);
    }
    List<String> visible = new ArrayList<>(visibleDatabases(connection));
    visible.removeAll(List.of("information_schema", "performance_schema", "mysql", "sys"));
    String meant =
        Nearest.to(spec.database(), visible)
            .map(name -> " Did you mean '" + name + "'?")
            .orElse("");
    return Connecting.refusal(
        spec,
        "host, user and password are right, but there is no database '"
            + spec.database()
            + "' that user '"
            + spec.user()
            + "' may see",
        "Correct 'database' of "
            + spec.name()
            + " in weftex.yaml, or have the right granted."
            + meant,
        null);
  }

  /** Some servers let an unknown name in as the anonymous user, which may see next to nothing. */
  private static boolean isGuest(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SELECT CURRENT_USER()")) {
      return rows.next() && rows.getString(1).startsWith("@");
    }
  }
}
