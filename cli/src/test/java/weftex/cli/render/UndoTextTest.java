package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import weftex.cli.result.ApplyReport;
import weftex.cli.result.UndoReport;
import weftex.cli.session.Took;
import weftex.store.apply.ApplyOutcome;
import weftex.store.engine.Drift;

class UndoTextTest {
  private static UndoReport report(
      String receipt, List<Drift> left, ApplyOutcome.FileCounts files, List<String> takenAway) {
    return new UndoReport(
        "r1",
        "live",
        receipt,
        new Took(0.4, 1_300),
        new UndoReport.Counts(1, 2, 0),
        left,
        files,
        takenAway,
        ApplyReport.Things.NONE);
  }

  private static String printed(UndoReport report) {
    return Printed.of(page -> UndoText.print(page, report));
  }

  @Test
  void whatWasTakenBackIsCounted() {
    assertThat(printed(report("r2", List.of(), ApplyOutcome.FileCounts.NONE, List.of())))
        .isEqualTo(
            """
            Undone on live: 1 added row removed, 2 updated rows restored, 0 removed rows brought back.
            Receipt: r2 (1.3 kB, in 0.4 s)
            """);
  }

  @Test
  void filesAndNewTablesGoToo() {
    assertThat(
            printed(
                report(
                    "r2",
                    List.of(),
                    new ApplyOutcome.FileCounts(1, 2, 3, List.of()),
                    List.of("table 'booking_offers'"))))
        .contains("Files: 3 removed, 2 with their old content, 1 brought back.\n")
        .contains("Taken away again: table 'booking_offers'.\n");
  }

  @Test
  void whatSomebodyEditedSinceIsLeftAloneByName() {
    assertThat(
            printed(
                report(
                    "",
                    List.of(new Drift(3, "pages", "4", "was edited since")),
                    ApplyOutcome.FileCounts.NONE,
                    List.of())))
        .isEqualTo(
            """
            There was nothing left to take back on live.

            Left alone, or not as before the apply:
              pages 4 was edited since
            Next: look at them on live; 'weftex undo r1 --also-changed' takes edited rows back, too.
            """);
  }
}
