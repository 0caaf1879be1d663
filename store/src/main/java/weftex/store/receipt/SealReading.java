package weftex.store.receipt;

import java.io.IOException;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.Optional;
import weftex.core.changeset.JsonLines;
import weftex.store.Refusal;

/** The seal of a receipt whose lines somebody reads anyway. */
final class SealReading {
  final MessageDigest digest = ReceiptSeal.sha256();
  private Optional<ReceiptSeal> seal = Optional.empty();

  /** Takes the next line; those behind the seal are passed over. */
  void take(byte[] line, boolean complete) throws IOException {
    if (isSealed()) {
      return;
    }
    boolean last =
        complete
            && line.length >= ReceiptSeal.WRITTEN.length
            && Arrays.equals(
                line,
                0,
                ReceiptSeal.WRITTEN.length,
                ReceiptSeal.WRITTEN,
                0,
                ReceiptSeal.WRITTEN.length);
    String before = last ? ReceiptSeal.soFar(digest) : "";
    digest.update(line);
    digest.update((byte) '\n');
    if (last) {
      String claimed = JsonLines.parse(line).path("written").path("sha256").asText();
      seal =
          Optional.of(
              new ReceiptSeal(
                  claimed.isEmpty() ? Optional.empty() : Optional.of(claimed),
                  before,
                  ReceiptSeal.soFar(digest)));
    }
  }

  boolean isSealed() {
    return seal.isPresent();
  }

  /**
   * The seal, once all lines were taken.
   *
   * @throws Refusal if the receipt was cut short
   */
  ReceiptSeal seal(Path file) throws Refusal {
    return seal.orElseThrow(() -> ReceiptSeal.altered(file, "was cut short"));
  }
}
