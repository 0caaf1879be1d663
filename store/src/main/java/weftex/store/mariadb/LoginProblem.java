package weftex.store.mariadb;

import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.Optional;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.database.Tls;
import weftex.store.ssh.SshLines;

/** Tells apart why nobody could log in: the host, the port, the name or the password. */
final class LoginProblem {

  private static final int HOST_NOT_ALLOWED = 1130;

  private LoginProblem() {}

  static Refusal explainLine(CopySpec.Server spec, SQLException e) throws Refusal {
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

  static Refusal explain(CopySpec.Server spec, SQLException e, String password) {
    String keys = " of " + spec.name() + " in weftex.yaml.";
    Optional<Refusal> line = LineProblem.of(spec, e);
    if (line.isPresent()) {
      return line.get();
    }
    if (e.getErrorCode() == ServerLogin.ACCESS_DENIED
        && spec.tls().verify() == Tls.Verify.OFF
        && ServerLogin.opens(spec, password)) {
      return LineProblem.mustUseTls(spec, e);
    }
    if (e.getErrorCode() == ServerLogin.ACCESS_DENIED) {
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

  static Refusal atSocket(CopySpec.Server spec, SQLException e, String keys) {
    boolean isThere = Files.exists(Path.of(spec.host()));
    return Connecting.refusal(
        spec,
        isThere
            ? "nothing answers at the socket " + spec.host() + " (" + FailureWords.of(e) + ")"
            : "there is no socket " + spec.host(),
        "Correct 'host'" + keys + " The server may not be running, or have it elsewhere.",
        e);
  }

  static Refusal atPort(CopySpec.Server spec, SQLException e, String keys) {
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
                + ServerLogin.CONNECT_TIMEOUT_MS / 1000
                + " seconds",
            "Correct 'host' or 'port'" + keys + " A firewall may stand between.",
            e);
      }
    }
    return stranger(spec, e, keys);
  }

  /** Something answers there, and no server that is known. */
  private static Refusal stranger(CopySpec.Server spec, SQLException e, String keys) {
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
}
