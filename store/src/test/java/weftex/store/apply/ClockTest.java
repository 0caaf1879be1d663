package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.change.RowChange;
import weftex.core.model.SiteModel;
import weftex.store.copy.Copy;
import weftex.store.engine.CommitGate;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.Receipts;
import weftex.store.seal.AtRest;
import weftex.store.testing.Pair;

/** Order is the ledger's, whatever a clock says. */
class ClockTest {
  @TempDir Path folder;

  @Test
  void anUndoOnAClockThatWentBackBehindTheBaseCounts() throws Exception {
    Pair pair = Pair.create(Pair.Kind.SQLITE, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE pages (id INTEGER PRIMARY KEY, title TEXT)",
        "INSERT INTO pages VALUES (1, 'Home')");
    pair.mark();
    pair.on("staging", "UPDATE pages SET title = 'Start' WHERE id = 1");
    pair.apply(pair.approvedDraft());
    assertThat(pair.changes()).isEmpty();

    Clock early = Clock.offset(Clock.systemUTC(), Duration.ofDays(-1));
    Receipts receipts = new Receipts(pair.state().receipts(), early, AtRest.CLEAR);
    Receipt applied = receipts.all().get(0);
    Copy live = Copy.reach(pair.spec("live"));
    new Undoer(receipts, new CommitGate(), "test", "test")
        .undo(applied, live, pair.means(live), Undoer.Terms.all(false, false), done -> {});
    assertThat(pair.ask("live", "SELECT title FROM pages")).containsExactly("Home");
    assertThat(pair.changes())
        .as("as before the apply, and no edit of live")
        .singleElement()
        .extracting(RowChange::conflicts)
        .isEqualTo(java.util.List.of());
  }
}
