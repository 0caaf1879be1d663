package weftex.store.receipt;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.change.Action;
import weftex.core.row.Value;
import weftex.store.pack.Frames;
import weftex.store.seal.AtRest;
import weftex.store.seal.Keyring;
import weftex.store.seal.Receivers;
import weftex.store.testing.AgeKey;

/** What several threads write into one receipt can all be read again. */
class ReceiptWriterTest {
  private static final int ROWS = 3_000;

  @TempDir Path folder;

  private AtRest atRest(boolean sealed) throws Exception {
    if (!sealed) {
      return AtRest.CLEAR;
    }
    Path key = AgeKey.write(folder.resolve("key"));
    return new AtRest(
        folder.resolve("state"),
        Receivers.said(List.of(AgeKey.receiver(key)), folder, ""),
        new Keyring(List.of(key), List.of(), file -> Optional.empty()));
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void noLineIsTornByAnotherThread(boolean sealed) throws Exception {
    Path file = folder.resolve("receipt");
    AtRest atRest = atRest(sealed);
    try (ReceiptWriter writer = new ReceiptWriter(file, receipt(), atRest)) {
      CompletableFuture<Void> other =
          CompletableFuture.runAsync(() -> before(writer, ROWS, 2 * ROWS));
      before(writer, 0, ROWS);
      other.join();
      for (int i = 0; i < 2 * ROWS; i++) {
        writer.after(i, Action.UPDATE, "pages", key(i), Map.of(), ReceiptWriter.Merged.NOTHING);
      }
      writer.written(0, 2 * ROWS, 0, 1);
    }
    try (ReceiptRows rows = new ReceiptRows(ReceiptFile.open(file, atRest, new Frames.Held()))) {
      assertThat(rows.size()).isEqualTo(2 * ROWS);
      for (int i = 0; i < rows.size(); i++) {
        assertThat(rows.get(i).before()).isEqualTo(values(i));
      }
    }
  }

  /** A process that is killed leaves what it had written, down to any byte of it. */
  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void whereverItWasCutOffItsEndingCanBeWritten(boolean sealed) throws Exception {
    Receipts receipts = new Receipts(folder.resolve("receipts"), Clock.systemUTC(), atRest(sealed));
    try (ReceiptWriter writer = receipts.begin(receipt())) {
      before(writer, 0, 1);
      writer.after(0, Action.UPDATE, "pages", key(0), Map.of(), ReceiptWriter.Merged.NOTHING);
      writer.written(0, 1, 0, 7);
      writer.committed("2026-11-28T10:00:01Z");
    }
    assertThat(receipts.all().get(0).outcome()).isEqualTo(Receipt.Outcome.COMMITTED);
    Path file = receipts.file("r1");
    byte[] whole = Files.readAllBytes(file);
    Set<Receipt.Outcome> seen = new HashSet<>();
    int step = sealed ? 23 : 5;
    for (int length = whole.length; length > 0; length -= step) {
      Files.write(file, Arrays.copyOf(whole, length));
      List<Receipt> all = receipts.all();
      // Before its header is on the disk nothing is touched.
      if (all.isEmpty()) {
        continue;
      }
      seen.add(all.get(0).outcome());
      if (all.get(0).outcome() == Receipt.Outcome.UNKNOWN) {
        assertThat(receipts.end(all.get(0), false).outcome())
            .isEqualTo(Receipt.Outcome.ROLLED_BACK);
        assertThat(receipts.all().get(0).outcome()).isEqualTo(Receipt.Outcome.ROLLED_BACK);
        try (ReceiptRows rows = receipts.rows("r1")) {
          assertThat(rows.size()).isLessThanOrEqualTo(1);
        }
      }
    }
    assertThat(seen).containsExactlyInAnyOrder(Receipt.Outcome.COMMITTED, Receipt.Outcome.UNKNOWN);
  }

  private static void before(ReceiptWriter writer, int from, int to) {
    try {
      for (int i = from; i < to; i++) {
        writer.before(i, "pages", key(i), values(i));
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static Map<String, Value> key(int i) {
    return Map.of("id", new Value.Whole(BigInteger.valueOf(i)));
  }

  private static Map<String, Value> values(int i) {
    return Map.of("title", new Value.Text(("Page " + i).getBytes(StandardCharsets.UTF_8)));
  }

  private static Receipt receipt() {
    return new Receipt(
        "r1",
        Receipt.Kind.APPLY,
        new Receipt.Way("skerrow", "staging", "live", "here"),
        new Receipt.Changes("draft", "draft.jsonl", List.of()),
        new Receipt.Author("Ann", "2026-11-28T10:00:00Z", "test"),
        List.of(),
        Receipt.Ending.NONE);
  }
}
