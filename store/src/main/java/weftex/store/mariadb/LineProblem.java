package weftex.store.mariadb;

import java.sql.SQLException;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.net.ssl.SSLException;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;

/** Says what is wrong with the protection of a line, and which line of weftex.yaml mends it. */
final class LineProblem {
  private static final Pattern FINGERPRINT = Pattern.compile("SHA-256 is ([0-9a-f]{64})");
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
    return ofName(spec, e, said, yaml);
  }

  private static Optional<Refusal> ofName(
      CopySpec.Server spec, SQLException e, String said, String yaml) {
    if (said.contains("SSL hostname verification failed")) {
      return Optional.of(
          Connecting.refusal(
              spec,
              "the server's certificate does not stand for host '"
                  + spec.host()
                  + "'; the password was not sent",
              "Correct 'host'"
                  + yaml
                  + " to a name that the certificate has, or pin it with 'tls: {fingerprint: …}'.",
              e));
    }
    return ofCertificate(spec, e, said, yaml);
  }

  private static Optional<Refusal> ofCertificate(
      CopySpec.Server spec, SQLException e, String said, String yaml) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof SSLException) {
        return Optional.of(certificate(spec, e, said, yaml));
      }
    }
    if (said.contains("the file of the authority can't be read")) {
      return Optional.of(
          Connecting.refusal(spec, e.getMessage(), "Correct 'ca' of 'tls'" + yaml + ".", e));
    }
    return Optional.empty();
  }

  private static Refusal certificate(
      CopySpec.Server spec, SQLException e, String said, String yaml) {
    Matcher fingerprint = FINGERPRINT.matcher(said);
    if (fingerprint.find()) {
      return Connecting.refusal(
          spec,
          "no authority that is trusted here vouches for the server's certificate, whose SHA-256 is "
              + fingerprint.group(1)
              + "; the password was not sent",
          "Name the authority's file with 'tls: {ca: FILE}', or, if whoever runs the server says the"
              + " same number, 'tls: {fingerprint: "
              + fingerprint.group(1)
              + "}'"
              + yaml
              + ". (Earlier versions took any certificate: 'tls: {verify: none}'.)",
          e);
    }
    if (said.contains("another one than the pinned one")) {
      return Connecting.refusal(
          spec,
          "the server's certificate is another one than the pinned one; the password was not sent",
          "Ask whoever runs the server whether it was renewed, and correct 'fingerprint'"
              + yaml
              + ".",
          e);
    }
    return Connecting.refusal(
        spec,
        "TLS failed: " + FailureWords.of(e) + "; the password was not sent",
        "See which versions of TLS the server takes, and 'tls'" + yaml + ".",
        e);
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
