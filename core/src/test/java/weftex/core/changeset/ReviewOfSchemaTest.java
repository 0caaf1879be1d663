package weftex.core.changeset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import weftex.core.change.Action;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.DecidedChange;
import weftex.core.change.Head;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/** What becomes of rows when the table or column that they need is left out. */
class ReviewOfSchemaTest {
  private static final RowChange OFFER = row(3, Action.ADD, "offers", Map.of("title", text("A")));
  private static final RowChange FEE_ALONE =
      row(4, Action.UPDATE, "pages", Map.of("fee", text("2")));
  private static final RowChange FEE_AND_TITLE =
      row(5, Action.UPDATE, "pages", Map.of("fee", text("2"), "title", text("B")));

  private final Review review = new Review();

  @BeforeEach
  void takeIn() {
    review.add(Changes.newTable(1, "offers"));
    review.add(Changes.newColumn(2, "pages", "fee"));
    List.of(OFFER, FEE_ALONE, FEE_AND_TITLE).forEach(review::add);
  }

  private static Value text(String text) {
    return Value.text(text);
  }

  private static RowChange row(int id, Action action, String table, Map<String, Value> after) {
    Map<String, Value> before =
        action == Action.ADD ? Map.of() : Map.of("fee", text("0"), "title", text("A"));
    Ties.Need need = new Ties.Need(3, ConflictKind.MISSING_PARENT, List.of("title"));
    return new RowChange(
        Head.of(id, action, table, Map.of("id", text("1")))
            .with(
                new Ties(
                    false,
                    Optional.empty(),
                    List.of(),
                    Optional.empty(),
                    id == 5 ? List.of(need) : List.of(),
                    Map.of())),
        before,
        after,
        Map.of(),
        List.of());
  }

  private void skip(int id) {
    review.add(Decision.of(List.of(id), Optional.empty(), Answer.SKIP, "Mira", "now", ""));
  }

  @Test
  void everythingIsMadeUnlessSomebodySkipsIt() {
    assertThat(review.ids()).allMatch(id -> review.standing(id) == Review.Standing.MADE);
    assertThat(review.decided(FEE_AND_TITLE).orElseThrow().before()).containsKey("fee");
  }

  @Test
  void rowsOfATableThatIsNotMadeAreLeftOutWithoutAQuestion() {
    skip(1);
    assertThat(review.standing(1)).isEqualTo(Review.Standing.SKIPPED);
    assertThat(review.standing(3)).isEqualTo(Review.Standing.NOTHING);
    assertThat(review.decided(OFFER)).isEmpty();
    // What refers to such a row is a question.
    assertThat(review.open(5)).containsExactly(ConflictKind.MISSING_PARENT);
  }

  @Test
  void valuesOfAColumnThatIsNotMadeAreLeftOut() {
    skip(2);
    assertThat(review.standing(4)).isEqualTo(Review.Standing.NOTHING);
    DecidedChange left = review.decided(FEE_AND_TITLE).orElseThrow();
    assertThat(left.after()).containsOnlyKeys("title");
    assertThat(left.before()).containsOnlyKeys("title");
  }

  @Test
  void theHeaderFollowsTheDecisions() {
    ChangeSetHeader.TableColumns pages =
        new ChangeSetHeader.TableColumns(
            "pages",
            List.of("id"),
            "id",
            List.of(
                new ChangeSetHeader.ColumnType("id", ValueKind.WHOLE, 0, "int"),
                new ChangeSetHeader.ColumnType("fee", ValueKind.WHOLE, 0, "int")),
            List.of());
    ChangeSetHeader.TableColumns offers =
        new ChangeSetHeader.TableColumns("offers", List.of(), "", List.of(), List.of());
    assertThat(review.decided(pages)).contains(pages);
    skip(1);
    skip(2);
    assertThat(review.decided(offers)).isEmpty();
    assertThat(review.decided(pages).orElseThrow().columns())
        .extracting(ChangeSetHeader.ColumnType::name)
        .containsExactly("id");
  }
}
