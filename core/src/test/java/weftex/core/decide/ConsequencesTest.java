package weftex.core.decide;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

class ConsequencesTest {

  private static RowChange add(
      int id, boolean offered, Optional<Integer> with, List<Integer> needs, Conflict... conflicts) {
    return new RowChange(
        Head.of(id, Action.ADD, "pages", Map.of("id", Value.whole(id)))
            .with(
                new Ties(
                    offered,
                    with,
                    List.of(),
                    Optional.empty(),
                    needs.stream()
                        .map(
                            need ->
                                new Ties.Need(need, ConflictKind.MISSING_PARENT, List.of("parent")))
                        .toList(),
                    Map.of())),
        Map.of(),
        Map.of("id", Value.whole(id)),
        Map.of(),
        List.of(conflicts));
  }

  private static Conflict conflict(boolean binding) {
    return new Conflict(
        ConflictKind.EDITED_GONE,
        binding,
        List.of(),
        Map.of(),
        Map.of(),
        Map.of(),
        Map.of(),
        List.of(),
        "");
  }

  private static void say(Review review, Answer answer, Integer... ids) {
    review.add(Decision.of(List.of(ids), Optional.empty(), answer, "Mira", "now", ""));
  }

  private static List<String> of(Review review, Answer answer, Set<Integer> apart) {
    return Consequences.of(review, answer, apart, "Mira", "now").stream()
        .map(decision -> decision.answer().label() + " " + decision.changes())
        .toList();
  }

  @Test
  void whatNeedsALeftOutChangeIsLeftOut() {
    Review review = new Review();
    review.add(add(1, false, Optional.empty(), List.of(), conflict(false)));
    review.add(add(2, false, Optional.empty(), List.of(1)));
    review.add(add(3, false, Optional.empty(), List.of(2)));
    review.add(add(4, false, Optional.empty(), List.of()));
    say(review, Answer.TARGET, 1);
    assertThat(of(review, Answer.TARGET, Set.of())).containsExactly("skip [2]", "skip [3]");
    assertThat(review.standing(4)).isEqualTo(Review.Standing.MADE);
  }

  @Test
  void whatATakenChangeNeedsIsBroughtAndItsConflictTaken() {
    Review review = new Review();
    review.add(add(1, true, Optional.empty(), List.of(), conflict(false)));
    review.add(add(2, false, Optional.empty(), List.of(1), conflict(false)));
    say(review, Answer.SOURCE, 2);
    assertThat(of(review, Answer.SOURCE, Set.of())).containsExactly("bring [1]", "source [1]");
    assertThat(review.count(Review.Standing.MADE)).isEqualTo(2);
  }

  @Test
  void whereTheDatabaseAllowsOneSideThatStands() {
    Review review = new Review();
    review.add(add(1, false, Optional.empty(), List.of(), conflict(true)));
    review.add(add(2, false, Optional.empty(), List.of(), conflict(true)));
    assertThat(of(review, Answer.SOURCE, Set.of(2))).containsExactly("target [1]");
    assertThat(review.standing(2)).as("another question").isEqualTo(Review.Standing.OPEN);
  }

  /** One answer to all conflicts leaves nothing to decide, whatever hangs together. */
  @Property(tries = 500)
  void oneAnswerIsEnough(@ForAll long seed, @ForAll boolean take) {
    Random random = new Random(seed);
    Review review = new Review();
    int size = 2 + random.nextInt(12);
    for (int id = 1; id <= size; id++) {
      List<Integer> needs = new ArrayList<>();
      for (int i = random.nextInt(3); i > 0; i--) {
        int need = 1 + random.nextInt(size);
        if (need != id && !needs.contains(need)) {
          needs.add(need);
        }
      }
      Optional<Integer> with =
          id > 1 && random.nextInt(3) == 0
              ? Optional.of(1 + random.nextInt(id - 1))
              : Optional.empty();
      boolean contested = random.nextInt(3) == 0;
      review.add(
          add(
              id,
              random.nextInt(4) == 0,
              with,
              needs,
              contested ? new Conflict[] {conflict(random.nextInt(3) == 0)} : new Conflict[0]));
    }
    Answer answer = take ? Answer.SOURCE : Answer.TARGET;
    for (int id : review.ids()) {
      if (review.standing(id) == Review.Standing.OPEN
          && review.refusal(id, Optional.empty(), answer).isEmpty()) {
        say(review, answer, id);
      }
    }
    Consequences.of(review, answer, Set.of(), "Mira", "now");
    assertThat(review.count(Review.Standing.OPEN)).isZero();
  }
}
