package weftex.store.testing;

import com.github.luben.zstd.ZstdInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** The lines of a receipt, as a program shows them that knows the compression and nothing of us. */
public final class ReceiptText {
  private ReceiptText() {}

  public static String of(Path receipt) throws IOException {
    try (ZstdInputStream in = new ZstdInputStream(Files.newInputStream(receipt))) {
      // A killed process leaves its last frame torn.
      in.setContinuous(true);
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }
}
