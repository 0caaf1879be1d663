package weftex.store.tidy;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.model.SiteModel;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptWriter;
import weftex.store.receipt.Receipts;
import weftex.store.seal.AtRest;
import weftex.store.testing.Pair;

/** What may go and what must stay; the base of these pairs was recorded on 2026-11-25. */
class LeftoversTest {
  private static final Instant NOW = Instant.parse("2027-06-01T10:00:00Z");

  @TempDir Path folder;
  private Pair pair;
  private Receipts receipts;

  @BeforeEach
  void aPair() throws Exception {
    pair =
        Pair.create(Pair.Kind.SQLITE, folder, SiteModel.PLAIN)
            .both("CREATE TABLE pages (id INTEGER PRIMARY KEY, title TEXT)")
            .mark();
    receipts = new Receipts(pair.state().receipts(), Clock.systemUTC(), AtRest.CLEAR);
  }

  private List<String> found(int keep) throws Exception {
    return new Leftovers(pair.state(), pair.bases(), receipts, new Leftovers.Limits(90, keep), NOW)
        .all().stream().map(one -> one.kind().words() + " " + one.path().getFileName()).toList();
  }

  private void receipt(String id, String at, String target, String undoes, boolean ended)
      throws Exception {
    Receipt receipt =
        new Receipt(
            id,
            undoes.isEmpty() ? Receipt.Kind.APPLY : Receipt.Kind.undo(undoes, false),
            new Receipt.Way("skerrow", "staging", "live", target),
            new Receipt.Changes("set", "set.jsonl", List.of()),
            new Receipt.Author("Mira", at, "test"),
            List.of(),
            Receipt.Ending.NONE);
    try (ReceiptWriter writer = receipts.begin(receipt)) {
      writer.written(0, 0, 0, 1);
      if (ended) {
        writer.committed(at);
      }
    }
  }

  private Path old(Path file, int days) throws Exception {
    Files.createDirectories(file.getParent());
    Files.writeString(file, "x");
    Files.setLastModifiedTime(file, FileTime.from(NOW.minus(Duration.ofDays(days))));
    return file;
  }

  @Test
  void theNewestDraftsStayHoweverOldAndYoungOnesHoweverMany() throws Exception {
    for (int i = 1; i <= 4; i++) {
      old(pair.state().changeSets().resolve("000" + i + "-2026-11-0" + i + ".jsonl"), 200 - i);
    }
    old(pair.state().changeSets().resolve("0005-2027-05-01.jsonl"), 30);
    assertThat(found(2))
        .containsExactly(
            "draft 0001-2026-11-01.jsonl",
            "draft 0002-2026-11-02.jsonl",
            "draft 0003-2026-11-03.jsonl");
    assertThat(found(20)).isEmpty();
  }

  @Test
  void aReceiptStaysAsLongAsABaseNeedsIt() throws Exception {
    receipt("a1", "2026-11-01T10:00:00Z", "live", "", true);
    receipt("a2", "2026-11-02T10:00:00Z", "live", "", true);
    receipt("since", "2026-11-25T12:00:00Z", "live", "", true);
    receipt("z", "2026-12-01T12:00:00Z", "live", "", true);
    assertThat(found(1)).containsExactly("receipt a1.jsonl.zst", "receipt a2.jsonl.zst");
    assertThat(found(3)).containsExactly("receipt a1.jsonl.zst");
  }

  @Test
  void theLastApplyToEachCopyWhatIsOpenAndWhatAnUndoSpeaksOfStay() throws Exception {
    receipt("a1", "2026-10-01T10:00:00Z", "staging", "", true);
    receipt("a2", "2026-10-02T10:00:00Z", "live", "", true);
    receipt("a3", "2026-10-03T10:00:00Z", "live", "", false);
    receipt("a4", "2026-10-04T10:00:00Z", "live", "", true);
    receipt("a5", "2026-10-05T10:00:00Z", "live", "", true);
    receipt("a6", "2026-10-06T10:00:00Z", "live", "a4", true);
    assertThat(found(1)).containsExactly("receipt a2.jsonl.zst");
  }

  @Test
  void withoutABaseNobodyKnowsWhichReceiptsAreNeeded() throws Exception {
    receipt("a1", "2026-10-01T10:00:00Z", "live", "", true);
    receipt("a2", "2026-10-02T10:00:00Z", "live", "", true);
    receipt("a3", "2026-10-03T10:00:00Z", "live", "", true);
    assertThat(found(1)).hasSize(2);
    Files.move(pair.bases().current(), folder.resolve("elsewhere"));
    assertThat(found(1)).isEmpty();
  }

  @Test
  void earlierBasesGoByNumberAndAge() throws Exception {
    pair.mark().mark().mark();
    assertThat(pair.bases().earlier()).hasSize(3);
    assertThat(found(1)).containsExactly("earlier base 0001", "earlier base 0002");
    for (Leftover one :
        new Leftovers(pair.state(), pair.bases(), receipts, new Leftovers.Limits(90, 1), NOW)
            .all()) {
      one.remove();
    }
    assertThat(pair.bases().earlier()).hasSize(1);
    assertThat(pair.bases().back()).isPresent();
  }

  @Test
  void temporaryFilesOfProcessesThatAreGoneAndOldReportsGo() throws Exception {
    old(pair.state().temporaries().resolve("differences-999999999"), 3);
    old(pair.state().temporaries().resolve("differences-" + ProcessHandle.current().pid()), 3);
    old(pair.state().failure("2026-11-28"), 100);
    assertThat(found(20))
        .containsExactly(
            "report of a failure 2026-11-28.txt",
            "temporary file of a process that is gone differences-999999999");
  }
}
