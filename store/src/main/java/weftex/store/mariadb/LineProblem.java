package weftex.store.mariadb;

import java.sql.SQLException;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;

/** Says what is wrong with the protection of a line, and which line of weftex.yaml mends it. */
final class LineProblem {

  private static final Pattern METHOD = Pattern.compile("requested plugin \\(?'?([A-Za-z0-9_]+)");

  private LineProblem() {}

  /** Empty if something else is wrong. */
  static Optional<Refusal> of(CopySpec.Server spec, SQLException e) {
    String said = messages(e);
    String yaml = " under 'mariadb' of " + spec.name() + " in weftex.yaml";
    if (said.contains("ssl not enabled in the server")) {
      return Optional.of(
          Connecting.refusal(
              spec,
              "the server offers no TLS, which Weftex asks for on every line to another machine;"
                  + " the password was not sent",
              "Turn TLS on there, use a tunnel that ends on this machine, or write 'tls: false'"
                  + yaml
                  + " if nobody else can listen on that line.",
              e));
    }
    if (said.contains("restrict authentication plugin")) {
      Matcher method = METHOD.matcher(said);
      return Optional.of(
          Connecting.refusal(
              spec,
              "the server asks for the login method '"
                  + (method.find() ? method.group(1) : "unknown")
                  + "', which could show it the password; the password was not sent",
              "Have the user get another login method there, or protect the line with 'tls: {verify:"
                  + " full}'"
                  + yaml
                  + ".",
              e));
    }
    return CertificateProblem.ofName(spec, e, said, yaml);
  }

  static Refusal mustUseTls(CopySpec.Server spec, SQLException e) {
    return Connecting.refusal(
        spec,
        "the server lets user '" + spec.user() + "' in only over TLS, which is off here",
        "Write 'tls: true' under 'mariadb' of " + spec.name() + " in weftex.yaml.",
        e);
  }

  private static String messages(Throwable e) {
    StringBuilder all = new StringBuilder();
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      all.append(cause.getMessage()).append('\n');
    }
    return all.toString();
  }
}
