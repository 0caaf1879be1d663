package weftex.core.decide;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.select.ItemFilter;
import weftex.core.select.MemberFilter;
import weftex.core.select.Selection;
import weftex.core.select.ThingFilter;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

class RuleBookTest {
  private final Review review = new Review();

  private static RowChange change(
      int id, String kind, String name, boolean binding, String... both) {
    List<Conflict> conflicts =
        both.length == 0
            ? List.of()
            : List.of(
                new Conflict(
                    ConflictKind.BOTH_EDITED,
                    binding,
                    List.of(both),
                    Map.of(),
                    Map.of(both[0], Value.text("source")),
                    Map.of(both[0], Value.text("target")),
                    Map.of(),
                    List.of(),
                    "a reason"));
    return new RowChange(
        new Head(
            id,
            Action.UPDATE,
            kind + "s",
            Map.of("id", Value.whole(id)),
            Optional.empty(),
            false,
            Ties.NONE,
            Optional.of(new Item(kind, name, "")),
            Trace.NONE),
        Map.of(),
        Map.of("other", Value.whole(1)),
        Map.of(),
        conflicts);
  }

  private static StandingRule rule(int number, String item, String column, String keep) {
    ThingFilter things =
        new ThingFilter(
            List.of(ItemFilter.parse(item)),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            "",
            "");
    return new StandingRule(
        number,
        new Selection(
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            things,
            MemberFilter.ALL,
            Optional.empty()),
        Optional.ofNullable(column),
        Optional.ofNullable(keep),
        "because of " + number);
  }

  private List<String> decide(List<StandingRule> rules, RowChange... changes) {
    RuleBook book = new RuleBook(rules, "staging", review);
    for (RowChange change : changes) {
      if (!review.ids().contains(change.id())) {
        review.add(change);
      }
      book.see(change);
    }
    return book.decisions("now").stream()
        .map(
            d ->
                d.answer().label()
                    + d.column().map(c -> " " + c).orElse("")
                    + " "
                    + d.changes()
                    + " by "
                    + d.by())
        .toList();
  }

  @Test
  void theFirstRuleThatFitsDecidesAndSaysWhy() {
    assertThat(
            decide(
                List.of(
                    rule(1, "setting:tag*", null, "live"),
                    rule(2, "page", "body", "staging"),
                    rule(3, "setting", null, "staging")),
                change(1, "setting", "tagline", false, "value"),
                change(2, "setting", "season", false, "value"),
                change(3, "page", "Fares", false, "body", "title"),
                change(4, "page", "Dogs", false)))
        .containsExactly(
            "target [1] by weftex.yaml, rule 1",
            "source [2] by weftex.yaml, rule 3",
            "source body [3] by weftex.yaml, rule 2");
  }

  @Test
  void whatIsLeftOutIsLeftOutWithOrWithoutConflict() {
    assertThat(
            decide(
                List.of(rule(1, "detail:views_*", null, null), rule(2, "detail", null, "live")),
                change(1, "detail", "views_today", false),
                change(2, "detail", "views_ever", false, "value"),
                change(3, "detail", "mood", false, "value")))
        .containsExactly("skip [1, 2] by weftex.yaml, rule 1", "target [3] by weftex.yaml, rule 2");
  }

  @Test
  void bothHaveTheirWordsInTheColumnThatARuleNames() {
    assertThat(
            decide(
                List.of(rule(1, "page", "body", "both"), rule(2, "page", null, "live")),
                change(1, "page", "Fares", false, "body", "title"),
                change(2, "page", "Dogs", false, "title")))
        .containsExactly(
            "both body [1] by weftex.yaml, rule 1", "target [1, 2] by weftex.yaml, rule 2");
  }

  @Test
  void withoutAColumnNoTextIsPutTogether() {
    assertThat(
            decide(
                List.of(rule(1, "page", null, "both")), change(1, "page", "Fares", false, "title")))
        .isEmpty();
  }

  @Test
  void whatSomebodyDecidedOrTheDatabaseRefusesIsLeftAlone() {
    RowChange decided = change(1, "page", "Fares", false, "title");
    review.add(decided);
    review.add(Decision.of(List.of(1), Optional.empty(), Answer.TARGET, "Mira", "now", ""));
    assertThat(
            decide(
                List.of(rule(1, "page", null, "staging")),
                decided,
                change(2, "page", "Dogs", true, "slug")))
        .isEmpty();
  }
}
