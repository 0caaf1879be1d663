package weftex.core.changeset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

class ReviewTest {
  private final Review review = new Review();

  private static final RowChange PLAIN =
      Changes.update(1, Map.of(), Map.of("title", Value.text("b")));
  private static final RowChange CONTESTED =
      Changes.update(
          2,
          Map.of(),
          Map.of("slug", Value.text("s")),
          Changes.conflict(ConflictKind.BOTH_EDITED, false, "title", "body"));

  private void decide(Answer answer, String column, Integer... ids) {
    review.add(Changes.decision(answer, column, ids));
  }

  @Test
  void aChangeWithoutConflictIsMadeUnlessSkipped() {
    review.add(PLAIN);
    assertThat(review.standing(1)).isEqualTo(Review.Standing.MADE);
    decide(Answer.SKIP, "", 1);
    assertThat(review.standing(1)).isEqualTo(Review.Standing.SKIPPED);
    assertThat(review.decided(PLAIN)).isEmpty();
    decide(Answer.INCLUDE, "", 1);
    assertThat(review.decided(PLAIN).orElseThrow().after()).containsOnlyKeys("title");
  }

  @Test
  void aConflictIsOpenUntilEveryColumnIsDecided() {
    review.add(CONTESTED);
    assertThat(review.open(2)).containsExactly(ConflictKind.BOTH_EDITED);
    decide(Answer.SOURCE, "title", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.OPEN);
    decide(Answer.TARGET, "body", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.MADE);
    assertThat(review.decided(CONTESTED).orElseThrow().after())
        .isEqualTo(Map.of("slug", Value.text("s"), "title", Value.text("source's title")));
  }

  @Test
  void insideAValueEitherAnswerWritesWhatCouldBeMerged() {
    RowChange partly =
        Changes.update(
            3,
            Map.of("value", Value.text("t")),
            Map.of(),
            new Conflict(
                ConflictKind.BOTH_EDITED,
                false,
                List.of("value"),
                Map.of(),
                Map.of("value", Value.text("merged, source's side")),
                Map.of("value", Value.text("t")),
                Map.of("value", Value.text("merged, target's side")),
                List.of(),
                "a reason"));
    review.add(partly);
    assertThat(review.standing(3)).isEqualTo(Review.Standing.OPEN);
    decide(Answer.SOURCE, "", 3);
    assertThat(review.decided(partly).orElseThrow().after())
        .isEqualTo(Map.of("value", Value.text("merged, source's side")));
    decide(Answer.TARGET, "", 3);
    assertThat(review.decided(partly).orElseThrow().after())
        .isEqualTo(Map.of("value", Value.text("merged, target's side")));
  }

  @Test
  void aLaterDecisionReplacesAnEarlierOne() {
    review.add(CONTESTED);
    decide(Answer.SOURCE, "title", 2);
    decide(Answer.TARGET, "", 2);
    assertThat(review.decided(CONTESTED).orElseThrow().after()).containsOnlyKeys("slug");
    decide(Answer.SOURCE, "", 2);
    assertThat(review.decided(CONTESTED).orElseThrow().after())
        .containsOnlyKeys("slug", "title", "body");
  }

  @Test
  void keepingTheTargetsRowLeavesNothingToDo() {
    RowChange removal =
        Changes.change(
            3,
            Action.REMOVE,
            Map.of(),
            Map.of(),
            List.of(Changes.conflict(ConflictKind.GONE_EDITED, false)),
            false,
            List.of());
    review.add(removal);
    decide(Answer.TARGET, "", 3);
    assertThat(review.standing(3)).isEqualTo(Review.Standing.NOTHING);
    decide(Answer.SOURCE, "", 3);
    assertThat(review.decided(removal)).isPresent();
  }

  @Test
  void whatTheDatabaseWouldRefuseCanNotBeTaken() {
    review.add(
        Changes.update(
            1,
            Map.of(),
            Map.of("slug", Value.text("x")),
            Changes.conflict(ConflictKind.TAKEN, true, "slug")));
    assertThat(review.refusal(1, Optional.empty(), Answer.SOURCE).orElseThrow()).contains("refuse");
    decide(Answer.TARGET, "", 1);
    assertThat(review.standing(1)).isEqualTo(Review.Standing.NOTHING);
  }

  @Test
  void leavingOutWhatAChangeNeedsOpensANewConflict() {
    RowChange child =
        Changes.change(
            2,
            Action.ADD,
            Map.of(),
            Map.of("parent", Value.whole(1)),
            List.of(),
            false,
            List.of(new Ties.Need(1, ConflictKind.MISSING_PARENT, List.of("parent"))));
    review.add(PLAIN);
    review.add(child);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.MADE);
    decide(Answer.SKIP, "", 1);
    assertThat(review.open(2)).containsExactly(ConflictKind.MISSING_PARENT);
    assertThat(review.unmetNeeds(2)).containsExactly(1);
    decide(Answer.SKIP, "", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.SKIPPED);
  }

  @Test
  void anOfferIsLeftOutUntilItIsBrought() {
    RowChange offer =
        Changes.change(
            1, Action.ADD, Map.of(), Map.of("title", Value.text("t")), List.of(), true, List.of());
    review.add(offer);
    assertThat(review.standing(1)).isEqualTo(Review.Standing.OFFERED);
    decide(Answer.BRING, "", 1);
    assertThat(review.standing(1)).isEqualTo(Review.Standing.MADE);
  }

  @Test
  void aNeedOfADroppedColumnIsNoNeed() {
    RowChange change =
        Changes.change(
            2,
            Action.UPDATE,
            Map.of(),
            Map.of("title", Value.text("t")),
            List.of(Changes.conflict(ConflictKind.BOTH_EDITED, false, "parent")),
            false,
            List.of(new Ties.Need(1, ConflictKind.MISSING_PARENT, List.of("parent"))));
    review.add(Changes.change(1, Action.ADD, Map.of(), Map.of(), List.of(), true, List.of()));
    review.add(change);
    decide(Answer.TARGET, "parent", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.MADE);
    decide(Answer.SOURCE, "parent", 2);
    assertThat(review.open(2)).containsExactly(ConflictKind.MISSING_PARENT);
  }

  @Test
  void decisionsThatFitNothingAreRefusedInASentence() {
    review.add(PLAIN);
    assertThat(review.refusal(9, Optional.empty(), Answer.SKIP).orElseThrow())
        .contains("There is no change 9");
    assertThat(review.refusal(1, Optional.empty(), Answer.SOURCE).orElseThrow())
        .contains("no conflict");
    assertThat(review.refusal(1, Optional.empty(), Answer.BRING).orElseThrow())
        .contains("not an offer");
  }

  private static final String MERGED =
      "The boat leaves at 06:45 today, and comes back at night. Tickets are sold on the pier.";
  private static final String OTHERWISE =
      "The boat leaves at 07:10 today, and comes back at night. Tickets are sold in the shop.";
  private static final RowChange TWO_PASSAGES =
      Changes.update(
          4,
          Map.of("body", Value.text("live")),
          Map.of(),
          new Conflict(
              ConflictKind.BOTH_EDITED,
              false,
              List.of("body"),
              Map.of(),
              Map.of("body", Value.text(MERGED)),
              Map.of("body", Value.text("live")),
              Map.of("body", Value.text(OTHERWISE)),
              List.of(),
              "a reason"));

  private void decide(Answer answer, int passage) {
    review.add(
        new Decision(
            List.of(4),
            Optional.of("body"),
            Optional.of(new Decision.Passage(passage, 2)),
            answer,
            Optional.empty(),
            "Mira",
            "now",
            ""));
  }

  @Test
  void aTextIsDecidedOnceEveryPassageIs() {
    review.add(TWO_PASSAGES);
    decide(Answer.SOURCE, 1);
    assertThat(review.standing(4)).isEqualTo(Review.Standing.OPEN);
    assertThat(review.passages(4, "body")).isEqualTo(Map.of(1, Answer.SOURCE));
    decide(Answer.TARGET, 2);
    assertThat(review.decided(TWO_PASSAGES).orElseThrow().after())
        .isEqualTo(Map.of("body", Value.text(MERGED.replace("on the pier", "in the shop"))));
    decide(Answer.TARGET, 1);
    assertThat(review.decided(TWO_PASSAGES).orElseThrow().after())
        .isEqualTo(Map.of("body", Value.text(OTHERWISE)));
    decide(Answer.SOURCE, "", 4);
    assertThat(review.passages(4, "body")).isEmpty();
    assertThat(review.decided(TWO_PASSAGES).orElseThrow().after())
        .isEqualTo(Map.of("body", Value.text(MERGED)));
  }

  private void write(int id, String column, String value) {
    review.add(
        new Decision(
            List.of(id),
            Optional.of(column),
            Optional.empty(),
            Answer.VALUE,
            Optional.of(Value.text(value)),
            "Mira",
            "now",
            ""));
  }

  @Test
  void aValueOfOnesOwnStandsWhateverTheSidesSay() {
    review.add(CONTESTED);
    write(2, "title", "mine");
    assertThat(review.standing(2)).isEqualTo(Review.Standing.OPEN);
    write(2, "slug", "my-slug");
    decide(Answer.TARGET, "body", 2);
    assertThat(review.decided(CONTESTED).orElseThrow().after())
        .isEqualTo(Map.of("slug", Value.text("my-slug"), "title", Value.text("mine")));
    decide(Answer.SOURCE, "", 2);
    assertThat(review.decided(CONTESTED).orElseThrow().after())
        .as("a side for the whole change leaves a value in an uncontested column")
        .containsEntry("slug", Value.text("my-slug"))
        .containsEntry("title", Value.text("source's title"));
    assertThat(review.refusal(2, Optional.of("nowhere"), Answer.VALUE)).isPresent();
    assertThat(review.refusal(2, Optional.of("id"), Answer.VALUE)).isPresent();
  }

  @Test
  void reopeningForgetsWhatWasSaidAndANoteSaysNothing() {
    review.add(CONTESTED);
    decide(Answer.SOURCE, "", 2);
    decide(Answer.NOTE, "", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.MADE);
    decide(Answer.REOPEN, "", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.OPEN);
    decide(Answer.SKIP, "", 2);
    decide(Answer.REOPEN, "", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.OPEN);
  }
}
