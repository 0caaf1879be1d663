package weftex.core.changeset;

import java.nio.charset.StandardCharsets;
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
    return HexFormat.of().formatHex(LineDigest.sha256().digest(all));
  }
}
