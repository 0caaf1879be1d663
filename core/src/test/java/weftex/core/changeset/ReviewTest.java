package weftex.core.changeset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;

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
    assertThat(review.effective(PLAIN)).isEmpty();
    decide(Answer.INCLUDE, "", 1);
    assertThat(review.effective(PLAIN).orElseThrow().after()).containsOnlyKeys("title");
  }

  @Test
  void aConflictIsOpenUntilEveryColumnIsDecided() {
    review.add(CONTESTED);
    assertThat(review.open(2)).containsExactly(ConflictKind.BOTH_EDITED);
    decide(Answer.SOURCE, "title", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.OPEN);
    decide(Answer.TARGET, "body", 2);
    assertThat(review.standing(2)).isEqualTo(Review.Standing.MADE);
    assertThat(review.effective(CONTESTED).orElseThrow().after())
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
                "a reason"));
    review.add(partly);
    assertThat(review.standing(3)).isEqualTo(Review.Standing.OPEN);
    decide(Answer.SOURCE, "", 3);
    assertThat(review.effective(partly).orElseThrow().after())
        .isEqualTo(Map.of("value", Value.text("merged, source's side")));
    decide(Answer.TARGET, "", 3);
    assertThat(review.effective(partly).orElseThrow().after())
        .isEqualTo(Map.of("value", Value.text("merged, target's side")));
  }

  @Test
  void aLaterDecisionReplacesAnEarlierOne() {
    review.add(CONTESTED);
    decide(Answer.SOURCE, "title", 2);
    decide(Answer.TARGET, "", 2);
    assertThat(review.effective(CONTESTED).orElseThrow().after()).containsOnlyKeys("slug");
    decide(Answer.SOURCE, "", 2);
    assertThat(review.effective(CONTESTED).orElseThrow().after())
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
    assertThat(review.effective(removal)).isPresent();
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
            List.of(new RowChange.Need(1, ConflictKind.MISSING_PARENT, List.of("parent"))));
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
            List.of(new RowChange.Need(1, ConflictKind.MISSING_PARENT, List.of("parent"))));
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
}
