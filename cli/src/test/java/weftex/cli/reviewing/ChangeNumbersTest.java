package weftex.cli.reviewing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.cli.page.Times;
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
import weftex.store.Refusal;

class ChangeNumbersTest {
  private final Review review = new Review();

  @BeforeEach
  void aReviewOfSixChanges() {
    for (int id = 1; id <= 6; id++) {
      boolean contested = id == 2 || id == 5;
      List<Conflict> conflicts =
          contested
              ? List.of(
                  new Conflict(
                      ConflictKind.BOTH_EDITED,
                      false,
                      List.of(id == 2 ? "title" : "price"),
                      Map.of(),
                      Map.of(),
                      Map.of(),
                      Map.of(),
                      List.of(),
                      "both"))
              : List.of();
      review.add(
          new RowChange(
              Head.of(id, Action.UPDATE, id > 4 ? "fares" : "pages", Map.of("id", Value.whole(id)))
                  .with(
                      new Ties(
                          id == 6,
                          Optional.empty(),
                          List.of(),
                          Optional.empty(),
                          List.of(),
                          Map.of())),
              Map.of(),
              Map.of("other", Value.whole(1)),
              Map.of(),
              conflicts));
    }
  }

  private ChangeNumbers numbers() {
    return new ChangeNumbers(review, Set.of(3, 4));
  }

  @ParameterizedTest(name = "{0} {1} means {2}")
  @CsvSource(
      delimiter = '|',
      value = {
        "SKIP | 3 | 3",
        "SKIP | 1-3,6 | 1 2 3 6",
        "SKIP | pages | 1 2 3 4",
        "KEEP | conflicts | 2 5",
        "KEEP | fares | 5",
        "BRING | offers | 6",
        "KEEP | conflicts.price | 5 of price",
        "KEEP | 2.title | 2 of title",
        "KEEP | 2.title#3 | 2 of title at 3",
        "SKIP | chosen | 3 4"
      })
  void resolvesWhatIsWritten(String answer, String written, String meant) throws Refusal {
    Answer means = answer.equals("KEEP") ? Answer.TARGET : Answer.valueOf(answer);
    StringBuilder found = new StringBuilder();
    for (ChangeNumbers.Meant each : numbers().resolve(written, means)) {
      each.changes().forEach(id -> found.append(found.isEmpty() ? "" : " ").append(id));
      each.column().ifPresent(name -> found.append(" of ").append(name));
      if (each.passage() > 0) {
        found.append(" at ").append(each.passage());
      }
    }
    assertThat(found).hasToString(meant);
  }

  @ParameterizedTest(name = "{0}: {1}")
  @CsvSource(
      delimiter = '|',
      value = {
        "7 | There is no change 7",
        "2,7 | There is no change 7",
        "harbours | 'harbours' matches no change",
        "2.slug | Column slug of change 2 is not in conflict",
        "1 | has no conflict to decide",
        "conflicts.slug | 'conflicts.slug' matches no change"
      })
  void whatFitsNothingIsRefusedAndNothingIsWritten(String written, String message) {
    Refusal refusal =
        catchThrowableOfType(Refusal.class, () -> numbers().resolve(written, Answer.TARGET));
    assertThat(refusal.getMessage()).contains(message, "No decision was written");
  }

  @Test
  void anInstantIsShownToTheMinute() {
    assertThat(Times.shown("2026-11-25T02:43:17.123Z")).isEqualTo("2026-11-25 02:43 UTC");
    assertThat(Times.shown("long ago")).isEqualTo("long ago");
  }

  @Test
  void anAnswerToAllConflictsIsNoMistakeWhereNoneIsOpen() throws Exception {
    List<Integer> open =
        numbers().resolve("conflicts", Answer.TARGET).stream()
            .flatMap(meant -> meant.changes().stream())
            .toList();
    review.add(Decision.of(open, Optional.empty(), Answer.TARGET, "Mira", "", ""));
    assertThat(numbers().resolve("conflicts", Answer.TARGET)).isEmpty();
    assertThat(numbers().resolve("conflicts,3", Answer.SKIP))
        .containsExactly(new ChangeNumbers.Meant(List.of(3), Optional.empty(), 0));
    assertThat(
            catchThrowableOfType(Refusal.class, () -> numbers().resolve("harbours", Answer.SKIP)))
        .hasMessageContaining("'harbours' matches no change");
  }
}
