package weftex.core.decide;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import weftex.core.change.Action;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/** Decisions that go from one change set to another: to a later draft, or to a joined one. */
class CarriedDecisionsTest {
  private static RowChange update(int id, long key, String live, String staging, String target) {
    Conflict conflict =
        new Conflict(
            ConflictKind.BOTH_EDITED,
            false,
            List.of("title"),
            Map.of(),
            Map.of("title", Value.text(staging)),
            Map.of("title", Value.text(target)),
            Map.of(),
            List.of(),
            "a reason");
    return change(
        id,
        Action.UPDATE,
        "pages",
        key,
        Map.of("note", Value.text(live)),
        Map.of("note", Value.text("new note")),
        List.of(conflict),
        Map.of());
  }

  private static RowChange change(
      int id,
      Action action,
      String table,
      long key,
      Map<String, Value> before,
      Map<String, Value> after,
      List<Conflict> conflicts,
      Map<Ties.Hanger, Long> hangers) {
    return new RowChange(
        new Head(
            id,
            action,
            table,
            Map.of("id", Value.whole(key)),
            Optional.empty(),
            false,
            new Ties(false, Optional.empty(), List.of(), Optional.empty(), List.of(), hangers),
            Optional.of(new Item("page", "P" + key, "")),
            Trace.NONE),
        before,
        after,
        Map.of(),
        conflicts);
  }

  private static SortedMap<Integer, Decision> held(Decision... decisions) {
    SortedMap<Integer, Decision> held = new TreeMap<>();
    for (Decision decision : decisions) {
      held.put(held.size() + 1, decision);
    }
    return held;
  }

  private static Decision said(Answer answer, String by, Integer... ids) {
    return Decision.of(List.of(ids), Optional.empty(), answer, by, "then", "why");
  }

  @Test
  void aDecisionGoesAlongIfBothCopiesSayTheSame() throws IOException {
    CarriedDecisions carried =
        new CarriedDecisions(
            held(
                said(Answer.TARGET, "Mira", 1, 2, 3),
                said(Answer.SKIP, "Ola", 2),
                said(Answer.SOURCE, "weftex.yaml, rule 1", 1)));
    carried.old(update(1, 11, "n", "s", "t"));
    carried.old(update(2, 12, "n", "s", "t"));
    carried.old(update(3, 13, "n", "s", "t"));
    Review review = new Review();
    for (RowChange change :
        List.of(update(1, 12, "n", "s", "edited since"), update(2, 11, "other", "s", "t"))) {
      carried.fresh(change);
      review.add(change);
    }
    CarriedDecisions.Outcome outcome = carried.outcome(review);
    assertThat(outcome.carried())
        .containsExactly(said(Answer.TARGET, "Mira", 2), said(Answer.SKIP, "Ola", 1));
    assertThat(outcome.fallen()).extracting(CarriedDecisions.Fallen::change).containsExactly(2, 3);
    assertThat(outcome.fallen().get(0).because()).contains("something else");
    assertThat(outcome.fallen().get(1).because()).contains("do not differ");
  }

  @Test
  void aValueGoesAlongWithItsColumnAlone() throws IOException {
    Decision note =
        new Decision(
            List.of(1),
            Optional.of("note"),
            Optional.empty(),
            Answer.VALUE,
            Optional.of(Value.text("mine")),
            "Mira",
            "then",
            "");
    CarriedDecisions carried = new CarriedDecisions(held(note));
    carried.old(update(1, 11, "n", "s", "t"));
    RowChange now = update(4, 11, "n", "s", "edited since");
    carried.fresh(now);
    Review review = new Review();
    review.add(update(1, 1, "", "", ""));
    review.add(now);
    assertThat(carried.outcome(review).carried()).containsExactly(note.about(List.of(4)));
  }

  private static ChangeSetHeader header(String target) {
    return new ChangeSetHeader(
        "skerrow",
        "staging",
        "live",
        target,
        Optional.of("base"),
        "then",
        "test",
        Map.of(),
        List.of(),
        List.of());
  }

  private static Joining joining(
      SortedMap<Integer, Decision> first, SortedMap<Integer, Decision> second) {
    return new Joining(header("here"), first, header("here"), second);
  }

  @Test
  void whatBothSayIsTakenOnceAndNumbersFollow() throws IOException {
    Joining joining =
        joining(held(said(Answer.TARGET, "Mira", 1)), held(said(Answer.SKIP, "Ola", 2)));
    RowChange same = update(1, 11, "n", "s", "t");
    RowChange own = update(2, 12, "n", "s", "t");
    joining.see(Joining.Which.FIRST, same);
    joining.see(Joining.Which.SECOND, same);
    joining.see(Joining.Which.SECOND, own);
    assertThat(joining.clashes()).isEmpty();
    assertThat(joining.renumbered(Joining.Which.FIRST, same).orElseThrow().id()).isEqualTo(1);
    assertThat(joining.renumbered(Joining.Which.SECOND, same)).isEmpty();
    assertThat(joining.renumbered(Joining.Which.SECOND, own).orElseThrow().id()).isEqualTo(2);
    assertThat(joining.held())
        .containsExactly(said(Answer.TARGET, "Mira", 1), said(Answer.SKIP, "Ola", 2));
  }

  @Test
  void whatSpeaksAgainstEachOtherIsListed() throws IOException {
    Joining joining =
        joining(held(said(Answer.TARGET, "Mira", 2)), held(said(Answer.SOURCE, "Ola", 2)));
    Ties.Hanger hanger = new Ties.Hanger("notes", List.of("page"), List.of("id"));
    joining.see(Joining.Which.FIRST, update(1, 11, "n", "s", "t"));
    joining.see(Joining.Which.FIRST, update(2, 12, "n", "s", "t"));
    joining.see(
        Joining.Which.FIRST,
        change(
            3,
            Action.REMOVE,
            "pages",
            9,
            Map.of("id", Value.whole(9)),
            Map.of(),
            List.of(),
            Map.of(hanger, 0L)));
    joining.see(Joining.Which.SECOND, update(1, 11, "n", "s", "moved"));
    joining.see(Joining.Which.SECOND, update(2, 12, "n", "s", "t"));
    joining.see(
        Joining.Which.SECOND,
        change(
            3,
            Action.ADD,
            "notes",
            1,
            Map.of(),
            Map.of("page", Value.whole(9)),
            List.of(),
            Map.of()));
    assertThat(joining.clashes())
        .hasSize(3)
        .anyMatch(clash -> clash.contains("about the same row (page 'P11')"))
        .anyMatch(
            clash -> clash.contains("refers to page 'P9', which change 3 of the other removes"))
        .anyMatch(clash -> clash.contains("Change 2 is decided in two ways"));
    assertThat(new Joining(header("here"), held(), header("there"), held()).clashes())
        .containsExactly("The target differs: here, and there.");
  }

  /** A row of a table without a key is known by what it says. */
  private static RowChange keyless(int id, String text) {
    RowChange keyed =
        change(
            id,
            Action.ADD,
            "log",
            1,
            Map.of(),
            Map.of("text", Value.text(text)),
            List.of(),
            Map.of());
    return new RowChange(
        Head.of(id, keyed.action(), keyed.table(), Map.of()),
        keyed.before(),
        keyed.after(),
        Map.of(),
        List.of());
  }

  @Test
  void rowsWithoutAKeyAreNotTakenForEachOther() throws IOException {
    CarriedDecisions carried = new CarriedDecisions(held(said(Answer.SKIP, "Mira", 1)));
    Joining joining = joining(held(), held());
    carried.old(keyless(1, "a"));
    carried.old(keyless(2, "b"));
    Review review = new Review();
    for (RowChange change : List.of(keyless(1, "b"), keyless(2, "a"))) {
      carried.fresh(change);
      review.add(change);
    }
    assertThat(carried.outcome(review).carried()).containsExactly(said(Answer.SKIP, "Mira", 2));
    joining.see(Joining.Which.FIRST, keyless(1, "a"));
    for (RowChange change : List.of(keyless(1, "a"), keyless(2, "a"), keyless(3, "b"))) {
      joining.see(Joining.Which.SECOND, change);
    }
    assertThat(joining.clashes()).isEmpty();
    assertThat(joining.renumbered(Joining.Which.SECOND, keyless(1, "a"))).isEmpty();
    assertThat(joining.renumbered(Joining.Which.SECOND, keyless(2, "a")).orElseThrow().id())
        .isEqualTo(2);
    assertThat(joining.renumbered(Joining.Which.SECOND, keyless(3, "b")).orElseThrow().id())
        .isEqualTo(3);
  }

  @Test
  void whatIsDoneInAnotherWayIsDecidedAnew() throws IOException {
    CarriedDecisions carried = new CarriedDecisions(held(said(Answer.SKIP, "Mira", 1)));
    carried.old(update(1, 11, "n", "s", "t"));
    RowChange removal =
        change(1, Action.REMOVE, "pages", 11, Map.of(), Map.of(), List.of(), Map.of());
    carried.fresh(removal);
    Review review = new Review();
    review.add(removal);
    assertThat(carried.outcome(review).carried()).isEmpty();
    assertThat(carried.outcome(review).fallen().get(0).because()).contains("in another way");
  }
}
