package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Optional;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;

/**
 * Tells a wrong user from a wrong password by what the other copy knows. A server answers both in
 * the same words on purpose; but if both copies are on one server, the one that can be reached may
 * say which it is.
 */
public final class LoginEvidence {
  private LoginEvidence() {}

  /**
   * What to do about a refused login, if that can be told.
   *
   * @param refused the copy that can't be reached
   * @param reached the other one
   * @param refusal why the first can't be reached
   */
  public static Optional<String> about(CopySpec refused, Copy reached, Refusal refusal) {
    boolean login =
        refusal.getCause() instanceof SQLException sql
            && sql.getErrorCode() == ServerLogin.ACCESS_DENIED;
    if (!login
        || !(refused instanceof CopySpec.Server one)
        || !(reached.spec() instanceof CopySpec.Server other)
        || !one.host().equals(other.host())
        || one.port() != other.port()
        || !one.ssh().equals(other.ssh())) {
      return Optional.empty();
    }
    String keys = " of " + one.name() + " in weftex.yaml";
    if (one.user().equals(other.user())) {
      return Optional.of(
          "Correct 'password'"
              + keys
              + ": the user is right, since "
              + other.name()
              + " is reached with it on the same server.");
    }
    return isKnown(one.user(), other)
        .map(
            known ->
                known
                    ? "Correct 'password'" + keys + ": the server has a user '" + one.user() + "'."
                    : "Correct 'user'" + keys + ": the server has no user '" + one.user() + "'.");
  }

  /** Asks the server, as the other copy's user; empty if that user may not know. */
  private static Optional<Boolean> isKnown(String user, CopySpec.Server other) {
    try (Connection connection = ServerLogin.open(other);
        PreparedStatement statement =
            connection.prepareStatement("SELECT COUNT(*) FROM mysql.user WHERE User = ?")) {
      statement.setString(1, user);
      try (ResultSet rows = statement.executeQuery()) {
        rows.next();
        return Optional.of(rows.getInt(1) > 0);
      }
    } catch (SQLException | Refusal e) {
      return Optional.empty();
    }
  }
}
