package weftex.core.change;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * An approval.
 *
 * @param by who
 * @param at when, as an ISO 8601 instant
 * @param sha256 of every byte of the file before the approval's own line, in hexadecimal
 */
public record Approval(String by, String at, String sha256) {

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
