package weftex.store.tidy;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.store.Refusal;
import weftex.store.pack.FrameWriter;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.Receipts;
import weftex.store.seal.AtRest;
import weftex.store.state.FileClaim;
import weftex.store.state.StateFolder;

/**
 * Drafts that nobody is at any more, and receipts of older versions: text, which takes a fraction
 * of its room when it is compressed. The newest draft stays as it is, for whoever reads it with
 * tools for text; a sealed one has no repetitions that could be left out.
 */
public final class Uncompressed {
  private static final Duration IN_USE = Duration.ofDays(1);

  private final StateFolder state;
  private final AtRest atRest;
  private final Receipts receipts;
  private final Instant now;

  public Uncompressed(StateFolder state, AtRest atRest, Receipts receipts, Instant now) {
    this.state = state;
    this.atRest = atRest;
    this.receipts = receipts;
    this.now = now;
  }

  /** All of them, oldest first: drafts, then receipts. */
  public List<Path> all() throws IOException, Refusal {
    List<Path> all = new ArrayList<>();
    List<Path> drafts = state.drafts();
    for (Path draft : drafts.subList(0, Math.max(0, drafts.size() - 1))) {
      Instant written = Files.getLastModifiedTime(draft).toInstant();
      if (written.isBefore(now.minus(IN_USE))
          && !StateFolder.isPacked(draft)
          && !AtRest.isSealed(draft)) {
        all.add(draft);
      }
    }
    // Of a sealed folder they are compressed when they are encrypted.
    if (!atRest.isSealing()) {
      for (Receipt receipt : receipts.all()) {
        Path file = receipts.file(receipt.id());
        if (receipt.outcome() != Receipt.Outcome.UNKNOWN && receipts.wanted(file).isPresent()) {
          all.add(file);
        }
      }
    }
    return all;
  }

  /**
   * Compresses one; what was there before is gone only when the other one is whole.
   *
   * @return how many bytes it takes now; empty if somebody has it open
   */
  public Optional<Long> compress(Path file) throws IOException {
    Optional<Path> receipt = receipts.wanted(file).filter(to -> file.startsWith(state.receipts()));
    if (receipt.isPresent()) {
      Rewriting.replace(file, receipt.get(), raw -> receipts.rewrite(file, raw));
      return Optional.of(Files.size(receipt.get()));
    }
    Path packed = StateFolder.packed(file);
    Optional<FileClaim> claim = FileClaim.attempt(FileClaim.beside(file), "tidying").claim();
    if (claim.isEmpty()) {
      return Optional.empty();
    }
    try {
      Rewriting.replace(
          file,
          packed,
          raw -> {
            try (InputStream in = Files.newInputStream(file);
                OutputStream out = new FrameWriter(raw)) {
              in.transferTo(out);
            }
          });
    } finally {
      claim.get().close();
      Files.deleteIfExists(FileClaim.beside(file));
    }
    return Optional.of(Files.size(packed));
  }
}
