package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.cli.page.Summary;
import weftex.cli.result.ReviewReport;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

class DecisionsTextTest {
  private static ReviewReport report(ReviewReport.Said... decisions) {
    return new ReviewReport(
        new ReviewReport.Named(
            "0001.jsonl", "", "skerrow", "staging", "live", "live.db", Optional.empty(), "then"),
        9,
        Map.of(),
        List.of(decisions),
        new ReviewReport.Approvals(List.of(), false, 1, false),
        new ReviewReport.Things(List.of(), 0),
        List.of());
  }

  private static String printed(ReviewReport report) {
    return Printed.of(page -> DecisionsText.print(page, report));
  }

  @Test
  void nothingYet() {
    assertThat(printed(report())).isEqualTo("Nothing has been decided yet.\n");
  }

  @Test
  void eachDecisionSaysWhatWhoAndWhy() {
    assertThat(
            printed(
                report(
                    new ReviewReport.Said(
                        1,
                        List.of(3, 4),
                        "title",
                        2,
                        "source",
                        "Mira",
                        "2026-11-20T08:30:00Z",
                        "as agreed",
                        ""),
                    new ReviewReport.Said(
                        2, List.of(5), "", 0, "skip", "Ola", "2026-11-20T08:31:00Z", "", "Mira"))))
        .isEqualTo(
            """
               1  take staging's side: 3,4 in title, passage 2
                  Mira, 2026-11-20 08:30 UTC: as agreed
               2  leave it out: 5 (taken back by Mira)
                  Ola, 2026-11-20 08:31 UTC
            """);
  }

  @Test
  void whatFollowedIsSaidWithItsReason() {
    Decision followed =
        Decision.of(
            List.of(4, 5, 6),
            Optional.empty(),
            Answer.SKIP,
            "Mira",
            "now",
            "parts of page 'Fares'");
    assertThat(
            Printed.of(
                page -> DecisionsText.printFollowed(page, List.of(followed), "staging", "live")))
        .isEqualTo("Follows: leave it out: 4-6 (parts of page 'Fares')\n\n");
    assertThat(Printed.of(page -> DecisionsText.printFollowed(page, List.of(), "a", "b")))
        .isEmpty();
  }

  @Test
  void whatWasUndoneBeforeIsHeldBack() {
    assertThat(Printed.of(page -> DecisionsText.printHeldBack(page, 0, ""))).isEmpty();
    assertThat(Printed.of(page -> DecisionsText.printHeldBack(page, 1, " c.jsonl")))
        .startsWith(
            "1 change was undone before and is held back. 'weftex review c.jsonl --decisions'");
    assertThat(Printed.of(page -> DecisionsText.printHeldBack(page, 3, "")))
        .startsWith("3 changes were undone before and are held back.");
  }

  @Test
  void whatIsApprovedStandsInColumns() {
    assertThat(
            Printed.of(
                page ->
                    DecisionsText.print(
                        page,
                        List.of(
                            new Summary.Entry("added", "3 × page"),
                            new Summary.Entry("accounts", "untouched")))))
        .isEqualTo("  added       3 × page\n  accounts    untouched\n\n");
  }
}
