package weftex.core.file;

import java.util.Optional;
import weftex.core.row.Value;

/**
 * What a file holds, by which it is known.
 *
 * @param sha256 of its bytes, 64 hexadecimal digits
 * @param bytes how many
 */
public record FileContent(String sha256, long bytes) {
  private static final int HEX = 64;

  /** As a change set and a receipt have it: {@code SHA256/BYTES}. */
  public Value value() {
    return Value.text(sha256 + "/" + bytes);
  }

  /** Reads what {@link #value} wrote; empty for anything else. */
  public static Optional<FileContent> of(Value value) {
    String text = value.display();
    if (!text.matches("[0-9a-f]{" + HEX + "}/\\d{1,18}")) {
      return Optional.empty();
    }
    return Optional.of(
        new FileContent(text.substring(0, HEX), Long.parseLong(text.substring(HEX + 1))));
  }
}
