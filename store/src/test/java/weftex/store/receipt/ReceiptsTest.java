package weftex.store.receipt;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.change.Action;
import weftex.core.row.Value;
import weftex.store.pack.Frames;
import weftex.store.seal.AtRest;

/** What the receipts of a site say, read by one run while another writes. */
class ReceiptsTest {
  @TempDir Path folder;

  private Receipts one;
  private Receipts other;

  @BeforeEach
  void twoRuns() {
    one = receipts();
    other = receipts();
  }

  private Receipts receipts() {
    return new Receipts(folder.resolve("receipts"), Clock.systemUTC(), AtRest.CLEAR);
  }

  @Test
  void theEndThatAnotherRunWritesIsSeen() throws Exception {
    begin("r1", "here", "Fares").close();
    assertThat(one.all()).extracting(Receipt::outcome).containsExactly(Receipt.Outcome.UNKNOWN);
    assertThat(one.open("here")).hasSize(1);
    assertThat(one.open("there")).isEmpty();
    other.end(other.all().get(0), true);
    assertThat(one.all()).extracting(Receipt::outcome).containsExactly(Receipt.Outcome.COMMITTED);
    assertThat(one.open("here")).isEmpty();
    assertThat(one.all()).isEqualTo(other.all());
  }

  @Test
  void oneThatIsTakenAwayIsGoneAndOneThatIsRewrittenSaysTheSame() throws Exception {
    ended("r1", "here", 1);
    List<Receipt> before = one.all();
    Path packed = one.file("r1");
    Path plain = packed.resolveSibling("r1.jsonl");
    try (ReceiptFile lines = ReceiptFile.open(packed, AtRest.CLEAR, new Frames.Held())) {
      Files.write(plain, lines.lines().readAllBytes());
    }
    other.discard("r1");
    assertThat(one.file("r1")).isEqualTo(plain);
    assertThat(one.all()).isEqualTo(before).hasSize(1);
    other.discard("r1");
    assertThat(one.all()).isEmpty();
  }

  @Test
  void aRowThatReadsLikeAnEndingIsNone() throws Exception {
    String ending = "{\"committed\":{\"at\":\"2026-11-30T10:00:00Z\"}}";
    try (ReceiptWriter writer = begin("r1", "here", "\n" + ending + "\n")) {
      writer.before(2, "committed", key(2), Map.of("committed", text(ending)));
    }
    assertThat(one.all()).extracting(Receipt::outcome).containsExactly(Receipt.Outcome.UNKNOWN);
  }

  @Test
  void theyStandInTheOrderOfTheLedgerOfTheirCopy() throws Exception {
    ended("r1", "here", 2);
    ended("r2", "there", 9);
    ended("r3", "here", 1);
    assertThat(one.all()).extracting(Receipt::id).containsExactly("r3", "r2", "r1");
    assertThat(one.lastSequence("here")).isEqualTo(2);
    assertThat(one.lastSequence("there")).isEqualTo(9);
    assertThat(one.lastSequence("nowhere")).isZero();
  }

  @Test
  void beforeTheFirstApplyThereIsNone() throws Exception {
    assertThat(one.all()).isEmpty();
    assertThat(one.schema("r1")).isEmpty();
    assertThat(one.madeTables("here")).isEmpty();
  }

  private void ended(String id, String place, long sequence) throws Exception {
    try (ReceiptWriter writer = begin(id, place, "Fares")) {
      writer.written(0, 1, 0, sequence);
      writer.committed("2026-11-30T10:00:01Z");
    }
  }

  private ReceiptWriter begin(String id, String place, String title) throws Exception {
    ReceiptWriter writer =
        other.begin(
            new Receipt(
                id,
                Receipt.Kind.APPLY,
                new Receipt.Way("skerrow", "staging", "live", place),
                new Receipt.Changes("draft", "draft.jsonl", List.of()),
                new Receipt.Author("Ann", "2026-11-30T10:00:00Z", "test"),
                List.of(),
                Receipt.Ending.NONE));
    writer.before(1, "pages", key(1), Map.of("title", text(title)));
    writer.after(
        1,
        Action.UPDATE,
        "pages",
        key(1),
        Map.of("title", text(title + "!")),
        ReceiptWriter.Merged.NOTHING);
    return writer;
  }

  private static Map<String, Value> key(int id) {
    return Map.of("id", Value.whole(id));
  }

  private static Value text(String text) {
    return new Value.Text(text.getBytes(StandardCharsets.UTF_8));
  }
}
