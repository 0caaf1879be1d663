package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.store.Refusal;
import weftex.store.testing.Pair;
import weftex.store.testing.ReceiptText;

/** What applying and undoing promise, on every kind of pair. */
class ApplyContractTest {
  @TempDir Path folder;

  private static final String PAGES = "SELECT id, slug, title, parent FROM pages ORDER BY id";

  private Pair site(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, Pair.content("pages", "notes", "fares", "guides"));
    for (String copy : List.of("staging", "live")) {
      boolean server =
          kind != Pair.Kind.SQLITE && (copy.equals("live") || kind == Pair.Kind.MARIADB);
      String number =
          server ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT";
      String reference = server ? "BIGINT" : "INTEGER";
      pair.on(
          copy,
          "CREATE TABLE pages (id "
              + number
              + ", slug VARCHAR(50) NOT NULL UNIQUE, title VARCHAR(99), parent "
              + reference
              + ", FOREIGN KEY (parent) REFERENCES pages (id))",
          "CREATE TABLE notes (id "
              + number
              + ", text VARCHAR(99), page "
              + reference
              + " NOT NULL, FOREIGN KEY (page) REFERENCES pages (id))",
          "CREATE TABLE fares (route INT NOT NULL, kind VARCHAR(9) NOT NULL, price DECIMAL(8,2), PRIMARY KEY (route, kind))",
          "INSERT INTO pages VALUES (1, 'home', 'Home', NULL), (2, 'fares', 'Fares', 1), (3, 'old', 'Old', NULL)",
          "INSERT INTO notes VALUES (1, 'first', 2), (2, 'second', 3)",
          "INSERT INTO fares VALUES (1, 'adult', 8.50), (1, 'child', 4.00)");
    }
    return pair.mark();
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void rightAfterTheBaseNothingDiffers(Pair.Kind kind) throws Exception {
    assertThat(site(kind).changes()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void theWholeWayThereAndBack(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (4, 'winter', 'Winter', 1), (5, 'hesk', 'Hesk', 4)",
        "UPDATE pages SET parent = 4 WHERE id = 2",
        "INSERT INTO notes VALUES (3, 'snow', 5)",
        "DELETE FROM notes WHERE id = 2",
        "DELETE FROM pages WHERE id = 3",
        "UPDATE fares SET price = 9.25 WHERE kind = 'adult'");
    pair.on(
        "live",
        "INSERT INTO pages VALUES (4, 'storm', 'Storm 🌊', NULL)",
        "UPDATE pages SET title = 'Fares 2027' WHERE id = 2");
    List<String> before = pair.ask("live", PAGES);

    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) pair.apply(pair.approvedDraft());
    assertThat(applied.adds()).isEqualTo(3);
    assertThat(applied.updates()).isEqualTo(2);
    assertThat(applied.removes()).isEqualTo(2);
    assertThat(applied.renumbered()).hasSize(1);
    assertThat(pair.ask("live", PAGES))
        .containsExactly(
            "1\thome\tHome\tNULL",
            "2\tfares\tFares 2027\t6",
            "4\tstorm\tStorm 🌊\tNULL",
            "5\thesk\tHesk\t6",
            "6\twinter\tWinter\t1");
    assertThat(pair.ask("live", "SELECT text, page FROM notes ORDER BY id"))
        .containsExactly("first\t2", "snow\t5");
    assertThat(pair.ask("live", "SELECT price * 100 FROM fares WHERE kind = 'adult'").get(0))
        .startsWith("925");

    UndoOutcome undone = pair.undo(false);
    assertThat(undone.leftAlone()).isEmpty();
    assertThat(pair.ask("live", PAGES)).isEqualTo(before);
    assertThat(pair.ask("live", "SELECT id, text, page FROM notes ORDER BY id"))
        .containsExactly("1\tfirst\t2", "2\tsecond\t3");
    assertThat(pair.undo(false).receipt()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void anUndoKnowsLongValuesThatWereLeftAlone(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    String guide = "Steep steps, slippery in the rain. ".repeat(200);
    for (String copy : List.of("staging", "live")) {
      pair.on(
          copy,
          "CREATE TABLE guides (id INT PRIMARY KEY, name VARCHAR(50), body TEXT)",
          "INSERT INTO guides VALUES (1, 'Hesk', '" + guide + "'), (2, 'Norrey', '" + guide + "')");
    }
    pair.mark();
    pair.on(
        "staging",
        "UPDATE guides SET name = 'Hesk harbour' WHERE id = 1",
        "UPDATE guides SET name = 'Norrey harbour' WHERE id = 2");
    pair.apply(pair.approvedDraft());
    pair.on("live", "UPDATE guides SET body = 'Closed for repairs.' WHERE id = 2");

    UndoOutcome undone = pair.undo(false);
    assertThat(undone.restored()).isEqualTo(1);
    assertThat(undone.leftAlone())
        .extracting(drift -> drift.table() + " " + drift.key() + " " + drift.what())
        .containsExactly("guides 2 was edited on live since");
    assertThat(pair.ask("live", "SELECT name, body FROM guides ORDER BY id"))
        .containsExactly("Hesk\t" + guide, "Norrey harbour\tClosed for repairs.");
    try (Stream<Path> receipts = Files.list(pair.receipts().file("x").getParent())) {
      assertThat(receipts)
          .isNotEmpty()
          .allSatisfy(r -> assertThat(ReceiptText.of(r)).doesNotContain(guide));
    }
  }

  @Test
  void aReceiptOfTheFirstFormatIsUndoneToo() throws Exception {
    Pair pair = site(Pair.Kind.SQLITE);
    List<String> before = pair.ask("live", PAGES);
    pair.on("staging", "UPDATE pages SET title = 'Welcome' WHERE id = 1");
    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) pair.apply(pair.approvedDraft());
    Path receipt = pair.receipts().file(applied.receipt());
    String written = ReceiptText.of(receipt);
    assertThat(written).contains("\"values\":{\"title\":\"Welcome\"}");
    Files.writeString(
        receipt,
        written
            .replaceFirst("\"format\":4", "\"format\":1")
            .replaceFirst(",\"sequence\":\\d+,\"sha256\":\"[0-9a-f]*\"", "")
            .replace(
                "\"values\":{\"title\":\"Welcome\"}",
                "\"values\":{\"id\":1,\"slug\":\"home\",\"title\":\"Welcome\",\"parent\":null}"));
    pair.on("live", "UPDATE weftex_ledger SET seq = NULL, receipt_sha256 = NULL");
    UndoOutcome undone = pair.undo(false);
    assertThat(undone.restored()).isEqualTo(1);
    assertThat(undone.vouchedFor()).isFalse();
    assertThat(pair.ask("live", PAGES)).isEqualTo(before);
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void applyingTwiceDoesNothingTheSecondTime(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on("staging", "UPDATE pages SET title = 'Welcome' WHERE id = 1");
    Path draft = pair.approvedDraft();
    pair.apply(draft);
    pair.on("live", "UPDATE pages SET title = 'Edited since' WHERE id = 1");
    assertThat(pair.apply(draft)).isInstanceOf(ApplyOutcome.AlreadyApplied.class);
    assertThat(pair.ask("live", "SELECT title FROM pages WHERE id = 1"))
        .containsExactly("Edited since");
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void everyRowThatMovedIsListedAndNothingIsWritten(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "UPDATE pages SET title = 'Welcome' WHERE id = 1",
        "UPDATE pages SET title = 'Prices' WHERE id = 2",
        "DELETE FROM notes WHERE id = 2",
        "UPDATE fares SET price = 1 WHERE kind = 'adult'",
        "INSERT INTO fares VALUES (2, 'dog', 1)");
    Path draft = pair.approvedDraft();
    pair.on(
        "live",
        "UPDATE pages SET slug = 'start' WHERE id = 1",
        "UPDATE notes SET text = 'third' WHERE id = 2",
        "DELETE FROM fares WHERE kind = 'adult'",
        "INSERT INTO fares VALUES (2, 'dog', 2)");
    List<String> before = pair.ask("live", PAGES);
    ApplyOutcome.Drifted drifted = (ApplyOutcome.Drifted) pair.apply(draft);
    assertThat(drifted.drifts())
        .extracting(drift -> drift.table() + " " + drift.key() + ": " + drift.what())
        .containsExactlyInAnyOrder(
            "pages 1: slug was edited on live since",
            "notes 2: text was edited on live since",
            "fares 1, adult: the row was removed on live since",
            "fares 2, dog: a row with this key was added on live since");
    assertThat(pair.ask("live", PAGES)).isEqualTo(before);
    assertThat(pair.receipts().all()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void aNumberThatLiveTakesAfterTheDraftIsSettledWhenApplying(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (4, 'winter', 'Winter', NULL), (5, 'hesk', 'Hesk', 4)");
    Path draft = pair.approvedDraft();
    pair.on("live", "INSERT INTO pages VALUES (4, 'storm', 'Storm', NULL)");
    pair.apply(draft);
    assertThat(pair.ask("live", PAGES)).contains("5\thesk\tHesk\t6", "6\twinter\tWinter\tNULL");
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void newRowsThatHangOnARemovedOneStopTheApply(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on("staging", "DELETE FROM notes WHERE id = 2", "DELETE FROM pages WHERE id = 3");
    Path draft = pair.approvedDraft();
    pair.on("live", "INSERT INTO notes VALUES (9, 'new', 3)");
    Refusal refusal = catchThrowableOfType(Refusal.class, () -> pair.apply(draft));
    assertThat(refusal.kind()).isEqualTo(Refusal.Kind.UNDECIDED);
    assertThat(refusal.getMessage())
        .contains("pages 3", "new rows of notes hang on it", "nothing was changed");
    assertThat(pair.ask("live", "SELECT COUNT(*) FROM notes")).containsExactly("3");
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void undoLeavesAloneWhatChangedAfterTheApply(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (4, 'winter', 'Winter', NULL), (5, 'spring', 'Spring', NULL)",
        "INSERT INTO notes VALUES (3, 'snow', 4)",
        "UPDATE pages SET title = 'Welcome' WHERE id = 1",
        "UPDATE pages SET title = 'Prices' WHERE id = 2");
    pair.apply(pair.approvedDraft());
    pair.on(
        "live",
        "UPDATE pages SET title = 'Winter!' WHERE id = 4",
        "UPDATE pages SET title = 'Hello' WHERE id = 1");
    UndoOutcome undone = pair.undo(false);
    assertThat(undone.leftAlone())
        .extracting(drift -> drift.table() + " " + drift.key() + " " + drift.what())
        .containsExactlyInAnyOrder(
            "pages 4 was edited on live since",
            "pages 1 was edited on live since",
            "notes 3 belongs to a row of pages that is left alone");
    assertThat(pair.ask("live", PAGES))
        .containsExactly(
            "1\thome\tHello\tNULL",
            "2\tfares\tFares\t1",
            "3\told\tOld\tNULL",
            "4\twinter\tWinter!\tNULL");

    assertThat(pair.undo(true).leftAlone()).isEmpty();
    assertThat(pair.ask("live", PAGES))
        .containsExactly("1\thome\tHome\tNULL", "2\tfares\tFares\t1", "3\told\tOld\tNULL");
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void rowsThatPassAUniqueValueOn(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "UPDATE pages SET slug = 'older' WHERE id = 3",
        "UPDATE pages SET slug = 'old' WHERE id = 1");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT slug FROM pages ORDER BY id"))
        .containsExactly("old", "fares", "older");
    pair.undo(false);
    assertThat(pair.ask("live", "SELECT slug FROM pages ORDER BY id"))
        .containsExactly("home", "fares", "old");
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void rowsThatReferToEachOtherInACircle(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (4, 'egg', 'Egg', NULL), (5, 'hen', 'Hen', 4), (6, 'self', 'Self', NULL)",
        "UPDATE pages SET parent = 5 WHERE id = 4",
        "UPDATE pages SET parent = 6 WHERE id = 6");
    pair.on(
        "live", "INSERT INTO pages VALUES (4, 'storm', 'Storm', NULL), (6, 'calm', 'Calm', NULL)");
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", PAGES))
        .contains("5\then\tHen\t7", "7\tegg\tEgg\t5", "8\tself\tSelf\t8");
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void whatIsNotFitIsRefusedBeforeAnythingIsTouched(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on("staging", "UPDATE pages SET title = 'Welcome' WHERE id = 1");
    Path unapproved = pair.draft();
    assertThat(catchThrowableOfType(Refusal.class, () -> pair.apply(unapproved)).getMessage())
        .contains("not approved");

    Path voided = pair.approvedDraft();
    Files.writeString(
        voided,
        "{\"decision\":{\"changes\":[1],\"answer\":\"skip\",\"by\":\"x\",\"at\":\"y\",\"why\":\"\"}}\n",
        StandardOpenOption.APPEND);
    assertThat(catchThrowableOfType(Refusal.class, () -> pair.apply(voided)).getMessage())
        .contains("voids the approval");

    pair.on("live", "UPDATE pages SET title = 'Hello' WHERE id = 1");
    Path open = pair.draft();
    pair.approve(open);
    assertThat(catchThrowableOfType(Refusal.class, () -> pair.apply(open)).getMessage())
        .contains("without a decision");

    pair.on("staging", "UPDATE pages SET title = 'Prices' WHERE id = 2");
    Path draft = pair.approvedDraft();
    pair.on("live", "ALTER TABLE pages ADD COLUMN mood VARCHAR(9)");
    assertThat(catchThrowableOfType(Refusal.class, () -> pair.apply(draft)).getMessage())
        .contains("table pages has a new column mood", "Nothing was changed");
    assertThat(pair.ask("live", "SELECT title FROM pages ORDER BY id"))
        .containsExactly("Hello", "Fares", "Old");
  }
}
