package weftex.core.signoff;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Optional;

/**
 * An approval.
 *
 * @param by who
 * @param at when, as an ISO 8601 instant
 * @param sha256 of every byte of the file before the approval's own line, in hexadecimal
 * @param signature by the key of whoever approved, as text, between its two lines
 */
public record Approval(String by, String at, String sha256, Optional<String> signature) {

  /** One that nobody signed. */
  public static Approval unsigned(String by, String at, String sha256) {
    return new Approval(by, at, sha256, Optional.empty());
  }

  /** What is signed, or would be. */
  public Statement statement() {
    return new Statement("approval", sha256, at, by);
  }

  /** The same with a signature. */
  public Approval signed(String armored) {
    return new Approval(by, at, sha256, Optional.of(armored));
  }

  /** SHA-256 of what was approved, by whom, and when, so that none of them can be exchanged. */
  public String seal() {
    byte[] all = String.join("\n", sha256, by, at).getBytes(StandardCharsets.UTF_8);
    return HexFormat.of().formatHex(hashing().digest(all));
  }

  private static MessageDigest hashing() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }
}
