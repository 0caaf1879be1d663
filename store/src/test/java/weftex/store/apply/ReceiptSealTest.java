package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.model.SiteModel;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptSeal;
import weftex.store.testing.Pair;
import weftex.store.testing.ReceiptText;

/** A receipt that is not as it was written is refused by name, and nothing is written. */
class ReceiptSealTest {
  private static final String PAGES = "SELECT id, title FROM pages ORDER BY id";

  @TempDir Path folder;

  private Pair applied(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE pages (id INTEGER PRIMARY KEY, title VARCHAR(40))",
        "INSERT INTO pages VALUES (1, 'Home'), (2, 'Fares'), (3, 'Harbours')");
    pair.mark();
    pair.on("staging", "UPDATE pages SET title = 'Welcome' WHERE id = 1");
    pair.on("staging", "DELETE FROM pages WHERE id = 3");
    pair.apply(pair.approvedDraft());
    return pair;
  }

  private static Path receipt(Pair pair) throws Exception {
    return pair.receipts().file(pair.receipts().all().get(0).id());
  }

  private static void isRefused(Pair pair, String why) throws Exception {
    List<String> before = pair.ask("live", PAGES);
    Refusal refusal = catchThrowableOfType(Refusal.class, () -> pair.undo(false));
    assertThat(refusal).hasMessageContainingAll(why, receipt(pair).getFileName().toString());
    assertThat(refusal).hasMessageEndingWith("Nothing was changed.");
    assertThat(pair.ask("live", PAGES)).isEqualTo(before);
    assertThat(pair.receipts().all()).hasSize(1);
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void anAlteredValue(Pair.Kind kind) throws Exception {
    Pair pair = applied(kind);
    String written = ReceiptText.of(receipt(pair));
    Files.writeString(receipt(pair), written.replace("\"Home\"", "\"Hacked\""));
    isRefused(pair, "is not as it was written");
    Files.writeString(receipt(pair), written);
    assertThat(pair.undo(false).restored()).isEqualTo(1);
  }

  @Test
  void anAlteredValueWithItsHashMadeAnew() throws Exception {
    Pair pair = applied(Pair.Kind.SQLITE);
    String altered = ReceiptText.of(receipt(pair)).replace("\"Home\"", "\"Hacked\"");
    Files.writeString(receipt(pair), altered);
    ReceiptSeal seal = pair.receipts().seal(pair.receipts().all().get(0).id());
    Files.writeString(receipt(pair), altered.replace(seal.claimed().orElseThrow(), seal.before()));
    assertThat(pair.receipts().seal(pair.receipts().all().get(0).id()).claimed())
        .contains(seal.before());
    isRefused(pair, "is not as it was written");
  }

  @Test
  void anAlteredValueInAReceiptThatPassesForAnOlderOne() throws Exception {
    Pair pair = applied(Pair.Kind.SQLITE);
    String older =
        ReceiptText.of(receipt(pair))
            .replace("\"Home\"", "\"Hacked\"")
            .replaceFirst("\"format\":4", "\"format\":2")
            .replaceFirst(",\"sequence\":1,\"sha256\":\"[0-9a-f]*\"", "");
    Files.writeString(receipt(pair), older);
    isRefused(pair, "is not as it was written");
  }

  @Test
  void anyMissingLine() throws Exception {
    Pair pair = applied(Pair.Kind.SQLITE);
    List<String> lines = ReceiptText.of(receipt(pair)).lines().toList();
    for (int i = 1; i < lines.size() - 1; i++) {
      List<String> fewer = new ArrayList<>(lines);
      boolean end = fewer.remove(i).startsWith("{\"written\"");
      Files.write(receipt(pair), fewer);
      isRefused(pair, end ? "was cut short" : "is not as it was written");
    }
  }

  @Test
  void aReceiptOfWhichTheTargetKnowsNothing() throws Exception {
    Pair pair = applied(Pair.Kind.SQLITE);
    pair.on("live", "DELETE FROM weftex_ledger");
    Refusal refusal = catchThrowableOfType(Refusal.class, () -> pair.undo(false));
    assertThat(refusal).hasMessageContaining("live does not know of the apply");
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void aLedgerOfAnOlderVersionGrows(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.PLAIN);
    pair.both(
        "CREATE TABLE pages (id INTEGER PRIMARY KEY, title VARCHAR(40))",
        "INSERT INTO pages VALUES (1, 'Home')");
    // Names that a pattern with '_' would take for the ledger's.
    pair.on("live", "CREATE TABLE weftexXledger (id INTEGER PRIMARY KEY)");
    pair.on(
        "live",
        "CREATE TABLE weftex_ledger (receipt VARCHAR(64) NOT NULL PRIMARY KEY, change_set CHAR(64) NOT NULL, kind VARCHAR(8)"
            + " NOT NULL, written_at VARCHAR(40) NOT NULL)",
        "INSERT INTO weftex_ledger VALUES ('99999999-old', 'c', 'apply', '2099-01-01T00:00:00Z')");
    pair.mark();
    pair.on("staging", "UPDATE pages SET title = 'Welcome' WHERE id = 1");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT seq, LENGTH(receipt_sha256) FROM weftex_ledger ORDER BY 1"))
        .as("the older entry, the base's and the apply's")
        .containsExactly("NULL\tNULL", "1\tNULL", "2\t64");
    assertThat(pair.undo(false).vouchedFor()).isTrue();
    assertThat(pair.ask("live", "SELECT seq FROM weftex_ledger ORDER BY 1"))
        .containsExactly("NULL", "1", "2", "3");
  }

  @Test
  void receiptsStandInTheOrderOfTheLedgerWhateverClocksSay() throws Exception {
    Pair pair = applied(Pair.Kind.SQLITE);
    Path later = receipt(pair);
    assertThat(pair.undo(false).restored()).isEqualTo(1);
    List<Receipt> right = pair.receipts().all();
    assertThat(right).extracting(Receipt::kind).containsExactly("apply", "undo");
    // As if the clock had been ahead when the first was written.
    Files.move(later, later.resolveSibling("20990101-000000-000.jsonl.zst"));
    assertThat(pair.receipts().all()).extracting(Receipt::kind).containsExactly("apply", "undo");
    assertThat(Copy.reach(pair.spec("live")).claimIfFree()).isPresent();
  }

  /** A copy that was made anew, or restored, has another ledger, and its receipts stay. */
  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void whatIsMergedIntoACopyMadeAnewIsTheLastThatIsTakenBack(Pair.Kind kind) throws Exception {
    Pair pair = applied(kind);
    for (int week = 1; week <= 2; week++) {
      pair.on("staging", "UPDATE pages SET title = 'Week " + week + "' WHERE id = 1");
      pair.apply(pair.approvedDraft());
    }
    pair.on("live", "DELETE FROM weftex_ledger");
    pair.mark();
    List<String> before = pair.ask("live", PAGES);
    pair.on("staging", "UPDATE pages SET title = 'Anew' WHERE id = 1");
    pair.apply(pair.approvedDraft());
    List<Receipt> all = pair.receipts().all();
    assertThat(all).extracting(Receipt::id).isSorted();
    assertThat(all).extracting(Receipt::sequence).doesNotHaveDuplicates();
    assertThat(pair.undo(false).restored()).isEqualTo(1);
    assertThat(pair.ask("live", PAGES)).isEqualTo(before);
  }
}
