package weftex.store.database;

import java.nio.file.Path;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * How the line to a server is protected.
 *
 * @param verify how the server proves who it is
 * @param authority a PEM file with the authority's certificates; empty for those that the system
 *     trusts
 * @param fingerprint SHA-256 of the server's certificate, in hexadecimal; only if {@code PINNED}
 */
public record Tls(Verify verify, Optional<Path> authority, Optional<String> fingerprint) {
  private static final Pattern THIS_MACHINE =
      Pattern.compile("/.+|localhost|127(\\.\\d{1,3}){3}|\\[?::1]?");

  /** How the server proves who it is. */
  public enum Verify {
    /** The line is open; for this machine itself, or a tunnel that ends here. */
    OFF,
    /** The line is encrypted, and anybody in between could be at its other end. */
    NONE,
    /** An authority vouches for the certificate, and the certificate for the host's name. */
    FULL,
    /** It is the very certificate that is known. */
    PINNED
  }

  public static final Tls OFF = new Tls(Verify.OFF, Optional.empty(), Optional.empty());
  public static final Tls UNVERIFIED = new Tls(Verify.NONE, Optional.empty(), Optional.empty());
  public static final Tls FULL = new Tls(Verify.FULL, Optional.empty(), Optional.empty());

  /** What holds where nothing is said: an open line only to this machine itself. */
  public static Tls byDefault(String host) {
    return THIS_MACHINE.matcher(host).matches() ? OFF : FULL;
  }

  /** Whether nobody but the server that is meant can read what goes over the line. */
  public boolean isProtected() {
    return verify == Verify.FULL || verify == Verify.PINNED;
  }
}
