package weftex.store.receipt;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.change.Action;
import weftex.core.row.Value;
import weftex.store.seal.AtRest;

/** What several threads write into one receipt can all be read again. */
class ReceiptWriterTest {
  private static final int ROWS = 3_000;

  @TempDir Path folder;

  @Test
  void noLineIsTornByAnotherThread() throws Exception {
    Path file = folder.resolve("receipt");
    try (ReceiptWriter writer = new ReceiptWriter(file, receipt(), AtRest.CLEAR)) {
      CompletableFuture<Void> other =
          CompletableFuture.runAsync(() -> before(writer, ROWS, 2 * ROWS));
      before(writer, 0, ROWS);
      other.join();
      for (int i = 0; i < 2 * ROWS; i++) {
        writer.after(i, Action.UPDATE, "pages", key(i), Map.of(), Optional.empty());
      }
      writer.written(0, 2 * ROWS, 0, 1);
    }
    try (ReceiptRows rows = new ReceiptRows(ReceiptFile.open(file, AtRest.CLEAR))) {
      assertThat(rows.size()).isEqualTo(2 * ROWS);
      for (int i = 0; i < rows.size(); i++) {
        assertThat(rows.get(i).before()).isEqualTo(values(i));
      }
    }
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
        "apply",
        "skerrow",
        "staging",
        "live",
        "here",
        "draft",
        "draft.jsonl",
        Optional.empty(),
        false,
        "Ann",
        "2026-11-28T10:00:00Z",
        "test",
        List.of(),
        List.of(),
        Receipt.Outcome.UNKNOWN,
        0,
        0,
        0,
        0);
  }
}
