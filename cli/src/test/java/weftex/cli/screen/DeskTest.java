package weftex.cli.screen;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.OutputStream;
import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.cli.page.Columns;
import weftex.cli.paint.Line;
import weftex.core.change.Action;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.DecisionLine;
import weftex.core.merge.ConflictKind;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.DecisionLog;
import weftex.store.seal.Keyring;

/** A change set under review, without a terminal. */
class DeskTest {
  private static final ChangeSetHeader HEADER =
      new ChangeSetHeader(
          "skerrow",
          "staging",
          "live",
          "sqlite live.db",
          Optional.of("live of a week ago"),
          "2026-11-25T10:00:00Z",
          "weftex test",
          Map.of(),
          List.of(
              new ChangeSetHeader.TableColumns(
                  "pages",
                  List.of("id"),
                  "id",
                  List.of(
                      new ChangeSetHeader.ColumnType("id", ValueKind.WHOLE, 0, "bigint"),
                      new ChangeSetHeader.ColumnType("title", ValueKind.TEXT, 0, "text")),
                  List.of())),
          List.of());

  @TempDir Path folder;
  private Path file;
  private DecisionLog log;
  private Desk desk;

  /** A page that a menu entry needs, two pages in conflict, a setting, and a page with \u202E. */
  @BeforeEach
  void aDesk() throws Exception {
    file = folder.resolve("set.jsonl");
    try (OutputStream out = Files.newOutputStream(file)) {
      ChangeSetWriter writer = new ChangeSetWriter(out, HEADER);
      writer.write(change(1, Action.ADD, "page", "Winter", List.of(), List.of()));
      writer.write(change(2, Action.UPDATE, "page", "Fares", List.of(clash("title")), List.of()));
      writer.write(change(3, Action.UPDATE, "page", "Dogs", List.of(clash("title")), List.of()));
      writer.write(change(4, Action.UPDATE, "setting", "tag\u202Eline\n2", List.of(), List.of()));
      writer.write(
          change(
              5,
              Action.ADD,
              "menu entry",
              "Winter",
              List.of(),
              List.of(new Ties.Need(1, ConflictKind.MISSING_PARENT, List.of()))));
      writer.finish();
    }
    log = DecisionLog.open(file, "Mira", Keyring.NONE).log().orElseThrow();
    desk = desk(Optional.of(log), "");
  }

  private Desk desk(Optional<DecisionLog> to, String readOnly) throws Exception {
    return new Desk(
        ChangeSetFile.read(file, Keyring.NONE),
        Optional.empty(),
        to,
        readOnly,
        "Mira",
        () -> "2026-11-25T11:00:00Z");
  }

  @AfterEach
  void close() throws Exception {
    log.close();
  }

  private static Conflict clash(String column) {
    return new Conflict(
        ConflictKind.BOTH_EDITED,
        false,
        List.of(column),
        Map.of(column, Value.text("base")),
        Map.of(column, Value.text("ours")),
        Map.of(column, Value.text("theirs")),
        Map.of(),
        List.of(),
        "both copies edited the same column");
  }

  private static RowChange change(
      int id,
      Action action,
      String kind,
      String name,
      List<Conflict> conflicts,
      List<Ties.Need> needs) {
    boolean add = action == Action.ADD;
    return new RowChange(
        new Head(
            id,
            action,
            "pages",
            Map.of("id", Value.whole(id)),
            add ? Optional.of(new RowName("pages", BigInteger.valueOf(id))) : Optional.empty(),
            add,
            new Ties(false, Optional.empty(), List.of(), Optional.empty(), needs, Map.of()),
            Optional.of(new Item(kind, name, "")),
            new Trace(
                "/" + name.toLowerCase(java.util.Locale.ROOT),
                Trace.Touch.UNKNOWN,
                Trace.Touch.UNKNOWN,
                "")),
        add ? Map.of() : Map.of("title", Value.text("theirs"), "note", Value.text("old")),
        conflicts.isEmpty()
            ? Map.of("title", Value.text("ours"))
            : Map.of("note", Value.text("new")),
        Map.of(),
        conflicts);
  }

  private List<String> listed() {
    return desk.listing().rows().stream()
        .map(row -> row.thing().map(Thing::name).orElse("# " + row.kind()))
        .toList();
  }

  private Review.Standing standing(int id) {
    return desk.review().standing(id);
  }

  @Test
  void thingsStandUnderTheirKindsAndShowSignsThatWouldAct() {
    assertThat(listed())
        .containsExactly(
            "# page",
            "Winter",
            "Fares",
            "Dogs",
            "# setting",
            "tag[U+202E]line 2",
            "# menu entry",
            "Winter");
    assertThat(desk.listing().row().orElseThrow().thing()).map(Thing::name).contains("Winter");
  }

  @Test
  void theListIsNarrowedByStandingNewNumberAndAnyWordOfAThing() throws Exception {
    desk.listing().filter(Filter.OPEN);
    assertThat(listed()).containsExactly("# page", "Fares", "Dogs");
    desk.listing().filter(Filter.RENUMBERED);
    assertThat(listed()).containsExactly("# page", "Winter", "# menu entry", "Winter");
    desk.listing().filter(Filter.ALL);
    desk.listing().find("/DOGS");
    assertThat(listed()).containsExactly("# page", "Dogs");
    desk.listing().find("nothing like that");
    assertThat(desk.listing().row()).isEmpty();
    assertThat(desk.decide(Answer.SKIP, Optional.empty())).isEqualTo("Nothing is listed.");
    desk.listing().find("");
    assertThat(listed()).hasSize(8);
  }

  @Test
  void whatADecisionBreaksIsSaidAtOnceAndUndoneAtOnce() throws Exception {
    String said = desk.decide(Answer.SKIP, Optional.of(Line.Spot.of(1)));
    assertThat(said)
        .isEqualTo("Leave it out for change 1. That leaves something to decide in change 5.");
    assertThat(standing(5)).isEqualTo(Review.Standing.OPEN);
    assertThat(desk.undo()).isEqualTo("Taken back: leave it out for page 'Winter', said by Mira.");
    assertThat(standing(5)).isEqualTo(Review.Standing.MADE);
    assertThat(desk.undo()).isEqualTo("There is no decision to take back.");
    assertThat(ChangeSetFile.read(file, Keyring.NONE).contents().held()).isEmpty();
  }

  @Test
  void anAnswerForAThingDecidesWhatFollowsAndIsUndoneWithIt() throws Exception {
    String said = desk.decide(Answer.SKIP, Optional.empty());
    assertThat(said)
        .isEqualTo(
            "Leave it out for change 1. Follows: leave it out for change 5. 2 changes are open.");
    assertThat(standing(5)).isEqualTo(Review.Standing.SKIPPED);
    assertThat(ChangeSetFile.read(file, Keyring.NONE).review().standing(5))
        .isEqualTo(Review.Standing.SKIPPED);
    assertThat(desk.undo()).isEqualTo("Taken back: leave it out for page 'Winter', said by Mira.");
    assertThat(standing(1)).isEqualTo(Review.Standing.MADE);
    assertThat(standing(5)).isEqualTo(Review.Standing.MADE);
    assertThat(ChangeSetFile.read(file, Keyring.NONE).contents().held()).isEmpty();
  }

  @Test
  void aHeadingDecidesAllOfItsKindThatTheAnswerFits() throws Exception {
    desk.listing().moveTo(0);
    assertThat(desk.decide(Answer.TARGET, Optional.empty()))
        .isEqualTo("Keep live's side for 2 changes. Nothing is left to decide.");
    assertThat(standing(1)).isEqualTo(Review.Standing.MADE);
    assertThat(desk.decide(Answer.INCLUDE, Optional.empty()))
        .isEqualTo("Nothing here can be decided so: make it after all.");
    desk.decide(Answer.REOPEN, Optional.empty());
    assertThat(desk.standings().all()).containsEntry(Review.Standing.OPEN, 2);
  }

  @Test
  void theNextOpenThingIsFoundFromAnywhere() throws Exception {
    desk.listing().moveTo(7);
    assertThat(desk.listing().nextOpen()).isTrue();
    assertThat(desk.listing().row().orElseThrow().thing()).map(Thing::name).contains("Fares");
    desk.decide(Answer.SOURCE, Optional.of(new Line.Spot(2, Optional.of("title"), 0, 0)));
    assertThat(desk.listing().nextOpen()).isTrue();
    assertThat(desk.listing().row().orElseThrow().thing()).map(Thing::name).contains("Dogs");
    desk.decide(Answer.SKIP, Optional.of(Line.Spot.of(3)));
    assertThat(desk.listing().nextOpen()).isFalse();
  }

  @Test
  void whatSomebodyElseWroteCountsBeforeTheNextDecision() throws Exception {
    Files.write(
        file,
        DecisionLine.of(
            Decision.of(List.of(2, 3), Optional.empty(), Answer.TARGET, "Ola", "now", "")),
        StandardOpenOption.APPEND);
    desk.listing().moveTo(5);
    assertThat(desk.note(Optional.empty(), "ask the office"))
        .startsWith("Somebody else wrote to the file; it was read again. Noted for change 4.");
    assertThat(desk.standings().all()).doesNotContainKey(Review.Standing.OPEN);
    assertThat(desk.approve("what was shown before", ApprovalSigning.NONE))
        .contains("meanwhile; nothing was approved");
    assertThat(ChangeSetFile.read(file, Keyring.NONE).contents().isApproved()).isFalse();
    String shown = ChangeSetFile.read(file, Keyring.NONE).contents().sha256();
    Refusal refusal = new Refusal(Refusal.Kind.WRONG_INPUT, "No key.", "Name one.");
    assertThatThrownBy(
            () ->
                desk.approve(
                    shown,
                    approval -> {
                      throw refusal;
                    }))
        .isSameAs(refusal);
    assertThat(ChangeSetFile.read(file, Keyring.NONE).contents().isApproved()).isFalse();
    assertThat(desk.approve(shown, ApprovalSigning.NONE)).isEqualTo("Approved by Mira.");
    assertThat(ChangeSetFile.read(file, Keyring.NONE).contents().isApproved()).isTrue();
    desk.decide(Answer.SKIP, Optional.of(Line.Spot.of(4)));
    assertThat(desk.isApproved()).isFalse();
  }

  @Test
  void whoOnlyReadsWritesNothing() throws Exception {
    long before = Files.size(file);
    Desk reader = desk(Optional.empty(), "Ola has it open");
    assertThat(reader.decide(Answer.SKIP, Optional.of(Line.Spot.of(1))))
        .isEqualTo("Nothing can be decided here: Ola has it open.");
    assertThat(reader.undo()).contains("Ola has it open");
    assertThat(reader.approve("", ApprovalSigning.NONE)).contains("Ola has it open");
    assertThat(reader.note(Optional.empty(), "x")).contains("Ola has it open");
    assertThat(Files.size(file)).isEqualTo(before);
  }

  @Test
  void aThingIsWrittenDownWithinItsWidth() throws Exception {
    Thing fares =
        desk.things().stream()
            .filter(thing -> thing.name().equals("Fares"))
            .findFirst()
            .orElseThrow();
    for (int width : new int[] {40, 60, 120}) {
      List<Line> lines = ThingText.of(fares, desk, width, false);
      assertThat(lines).allMatch(line -> Columns.width(line.text().stripTrailing()) <= width);
      String text = String.join("\n", lines.stream().map(Line::text).toList());
      assertThat(text)
          .contains(
              "both-edited", "base", "staging", "ours", "live", "theirs", "t  take staging's side");
      assertThat(lines.stream().flatMap(line -> line.spot().stream()))
          .contains(Line.Spot.of(2), new Line.Spot(2, Optional.of("title"), 0, 0));
    }
  }
}
