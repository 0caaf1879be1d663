package weftex.store.receipt;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Optional;
import weftex.core.changeset.JsonLines;
import weftex.store.Refusal;
import weftex.store.rows.Ledger;

/**
 * Whether a receipt is as it was written. Its line {@code written} holds the SHA-256 of all lines
 * before it, and the target's ledger holds that of all lines up to and with it, written in the
 * transaction that the receipt speaks of.
 *
 * @param claimed what the line {@code written} says of the lines before it; empty in a receipt of
 *     an older version
 * @param before what they are
 * @param whole of all lines up to {@code written}
 */
public record ReceiptSeal(Optional<String> claimed, String before, String whole) {
  static final byte[] WRITTEN = "{\"written\"".getBytes(StandardCharsets.US_ASCII);

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  /** The hash so far; the digest goes on. */
  static String soFar(MessageDigest digest) {
    try {
      return HexFormat.of().formatHex(((MessageDigest) digest.clone()).digest());
    } catch (CloneNotSupportedException e) {
      throw new IllegalStateException("SHA-256 can be cloned", e);
    }
  }

  /**
   * Reads a receipt.
   *
   * @throws Refusal if it was cut short
   */
  static ReceiptSeal of(Path file, ReceiptFile receipt) throws IOException, Refusal {
    SealReading reading = new SealReading();
    try (InputStream in = receipt.lines()) {
      JsonLines.Lines lines = new JsonLines.Lines(in);
      while (!lines.atEnd() && !reading.isSealed()) {
        byte[] line = lines.next();
        reading.take(line, lines.isComplete());
      }
    }
    return reading.seal(file);
  }

  /**
   * Checks a receipt against the ledger.
   *
   * @param entry the ledger's
   * @return whether the ledger vouches for it; an entry of an older version can't
   * @throws Refusal if the receipt was altered
   */
  public boolean check(Path file, Ledger.Entry entry) throws Refusal {
    boolean asWritten = claimed.map(before::equals).orElse(true);
    if (!asWritten || !entry.hash().map(whole::equals).orElse(true)) {
      throw altered(file, "is not as it was written: somebody altered it, or lines are missing");
    }
    return entry.hash().isPresent();
  }

  static Refusal altered(Path file, String what) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The receipt " + file.getFileName() + " " + what + ". Nothing was changed.",
        "Bring the file back from a backup of "
            + file.getParent()
            + ", and run the command again.");
  }
}
