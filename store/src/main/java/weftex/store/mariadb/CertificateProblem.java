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

/** What is wrong with a server's certificate. */
final class CertificateProblem {

  private static final Pattern FINGERPRINT = Pattern.compile("SHA-256 is ([0-9a-f]{64})");

  private CertificateProblem() {}

  static Optional<Refusal> ofName(CopySpec.Server spec, SQLException e, String said, String yaml) {
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

  static Optional<Refusal> ofCertificate(
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

  static Refusal certificate(CopySpec.Server spec, SQLException e, String said, String yaml) {
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
}
