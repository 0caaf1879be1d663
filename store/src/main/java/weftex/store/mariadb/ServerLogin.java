package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Properties;
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

  static final int CONNECT_TIMEOUT_MS = 10_000;

  /** Measured: fewer and larger reads spare both ends a third of their system calls. */
  private static final int RECEIVE_BUFFER = 1 << 20;

  private ServerLogin() {}

  static Connection open(CopySpec.Server spec) throws Refusal {
    Connection connection = logIn(spec, spec.password().fetch());
    try {
      if (!DatabaseChoice.use(connection, spec.database())) {
        throw DatabaseChoice.wrongDatabase(connection, spec);
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
      throw LoginProblem.explain(spec, e, password);
    }
  }

  private static Connection logInOverLine(CopySpec.Server spec, String password) throws Refusal {
    for (boolean again = false; ; again = true) {
      SshLine line = SshLines.to(spec);
      try {
        return connect(spec, spec.tls(), password);
      } catch (SQLException e) {
        if (e.getErrorCode() > 0) {
          throw LoginProblem.explain(spec, e, password);
        }
        // One that was cut a moment ago is made anew, once.
        if (again || !line.endsSoon()) {
          throw LoginProblem.explainLine(spec, e);
        }
      }
    }
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

  /** Whether the same user gets in over an encrypted line. */
  static boolean opens(CopySpec.Server spec, String password) {
    try (Connection connection = connect(spec, Tls.UNVERIFIED, password)) {
      return connection.isValid(1);
    } catch (SQLException | Refusal e) {
      return false;
    }
  }
}
