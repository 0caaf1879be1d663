package weftex.cli.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;

class ExplainedTest {
  private final Explained explained = new Explained("staging", "live");

  private static Conflict conflict(
      ConflictKind kind, boolean binding, String reason, String... columns) {
    return new Conflict(
        kind, binding, List.of(columns), Map.of(), Map.of(), Map.of(), Map.of(), List.of(), reason);
  }

  private static RowChange change(Action action, Map<String, Long> hangers, Conflict... conflicts) {
    Map<Ties.Hanger, Long> hanging = new LinkedHashMap<>();
    hangers.forEach(
        (table, rows) -> hanging.put(new Ties.Hanger(table, List.of("page"), List.of("id")), rows));
    return new RowChange(
        new Head(
            1,
            action,
            "pages",
            Map.of("id", Value.whole(9)),
            Optional.empty(),
            false,
            new Ties(false, Optional.empty(), List.of(), Optional.empty(), List.of(), hanging),
            Optional.of(new Item("page", "Fares", "")),
            new Trace(
                "/fares",
                new Trace.Touch("ola", "2026-11-21T09:12:44"),
                new Trace.Touch("", "2026-11-23T08:00"),
                "")),
        Map.of(),
        Map.of(),
        Map.of(),
        List.of(conflicts));
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      value = {
        "BOTH_EDITED | both copies edited the same column | title | Both copies edited title of page 'Fares'.",
        "EDITED_GONE | x | title | staging edited page 'Fares', and live removed it.",
        "GONE_EDITED | x | title | staging removed page 'Fares', and live edited it since.",
        "TAKEN | slug 'fares' is taken by pages 7 | slug | Slug 'fares' is taken by pages 7.",
        "NO_BASE | there is no base to say which copy changed | title | There is no base to say which copy changed."
      })
  void everyKindIsOneSentence(ConflictKind kind, String reason, String column, String sentence) {
    Conflict conflict = conflict(kind, false, reason, column);
    assertThat(explained.sentence(change(Action.UPDATE, Map.of(), conflict), conflict))
        .isEqualTo(sentence);
  }

  @ParameterizedTest(name = "{1}")
  @CsvSource(
      delimiter = '|',
      value = {
        "BOTH_EDITED | 07:30/on board; 2 more | Both copies edited body of page 'Fares', at: '07:30', 'on board; 2 more'. Everything else in it is merged.",
        "BOTH_ADDED | colour | Both copies added page 'Fares', each in its own way, at: 'colour'. Everything else in it is merged.",
        "BOTH_EDITED | a/b/c/d/e/f | Both copies edited body of page 'Fares', at: 'a', 'b', 'c', 'd', 'e' and 1 other place. Everything else in it is merged.",
        "BOTH_EDITED | a/b/c/d/e/f/g | Both copies edited body of page 'Fares', at: 'a', 'b', 'c', 'd', 'e' and 2 other places. Everything else in it is merged."
      })
  void placesInsideAreNamedAsTheyAre(ConflictKind kind, String places, String sentence) {
    Conflict conflict =
        new Conflict(
            kind,
            false,
            List.of("body"),
            Map.of(),
            Map.of(),
            Map.of(),
            Map.of(),
            List.of(places.split("/")),
            "both copies edited the same place inside a value");
    assertThat(explained.sentence(change(Action.UPDATE, Map.of(), conflict), conflict))
        .isEqualTo(sentence);
  }

  @ParameterizedTest(name = "{1} of {0}")
  @CsvSource({
    "comments, 1, 1 comment",
    "comments, 3, 3 comments",
    "menu_entries, 1, 1 menu entry",
    "news, 1, 1 new",
    "meta, 1, 1 row of meta",
    "address, 1, 1 row of address"
  })
  void whatHangsOnARemovedThingIsCounted(String table, long rows, String words) {
    Conflict conflict = conflict(ConflictKind.GONE_IN_USE, true, "x");
    RowChange change = change(Action.REMOVE, Map.of(table, rows, "nothing", 0L), conflict);
    assertThat(explained.sentence(change, conflict))
        .isEqualTo("live has " + words + " on page 'Fares', which staging removes.");
    assertThat(explained.answers(change, conflict)).containsOnlyKeys(Answer.TARGET, Answer.SKIP);
  }

  @Test
  void everyAnswerSaysWhatItDoesAndWhatIsToldTwiceIsToldOnce() {
    Conflict edited = conflict(ConflictKind.BOTH_EDITED, false, "x", "title");
    RowChange change = change(Action.UPDATE, Map.of(), edited, edited);
    assertThat(explained.answers(change, edited))
        .containsEntry(Answer.SOURCE, "staging's title stands; what live wrote there is lost")
        .containsEntry(
            Answer.TARGET, "live's title stays; staging's edit of it is not carried over")
        .containsEntry(Answer.SKIP, "the whole change is left out");
    assertThat(explained.told(change)).containsExactly(edited);
  }

  @Test
  void whoAndWhenAreSaidAsFarAsTheyAreKnown() {
    assertThat(explained.who(change(Action.UPDATE, Map.of()).trace()))
        .contains(
            "staging: by ola, last changed 2026-11-21 09:12; live: last changed 2026-11-23 08:00");
    assertThat(explained.who(Trace.NONE)).isEmpty();
  }
}
