package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.cli.result.ApplyReport;
import weftex.cli.result.HistoryReport;

class HistoryTextTest {
  private static HistoryReport.Event event(String undoes, boolean part, List<String> things) {
    return new HistoryReport.Event(
        new HistoryReport.Run(
            "r2",
            undoes.isEmpty() ? "apply" : "undo",
            undoes,
            part,
            "staging",
            "live",
            "2026-11-20T08:30:00Z",
            "mira",
            undoes.isEmpty() ? List.of("Mira Tangen") : List.of()),
        new HistoryReport.Contents("set", "0001.jsonl", things),
        "done",
        new ApplyReport.Counts(4, 1, 0),
        undoes.isEmpty() ? Optional.of(0.2) : Optional.empty(),
        1_300);
  }

  private static String printed(HistoryReport history) {
    return Printed.of(page -> HistoryText.print(page, history));
  }

  @Test
  void nothingYet() {
    assertThat(printed(new HistoryReport(List.of(), List.of(), List.of())))
        .isEqualTo("Nothing was applied yet.\n");
  }

  @Test
  void anApplyNamesItsFirstThingsAndWhoApprovedIt() {
    List<String> things = List.of("page 'A'", "page 'B'", "page 'C'", "page 'D'", "page 'E'");
    assertThat(printed(new HistoryReport(List.of(event("", false, things)), List.of(), List.of())))
        .isEqualTo(
            """
            2026-11-20 08:30 UTC  apply staging → live, done in 0.2 s: 4 added, 1 updated, 0 removed
                                  page 'A', page 'B', page 'C', page 'D' and 1 more
                                  receipt r2 (1.3 kB), by mira, approved by Mira Tangen
            """);
  }

  @Test
  void anUndoOfAPartNamesTheCopyAlone() {
    assertThat(
            printed(new HistoryReport(List.of(event("r1", true, List.of())), List.of(), List.of())))
        .isEqualTo(
            """
            2026-11-20 08:30 UTC  undo of a part on live, done: 4 added, 1 updated, 0 removed
                                  receipt r2 (1.3 kB), by mira
            """);
  }

  @Test
  void basesAndRestorePoints() {
    assertThat(
            printed(
                new HistoryReport(
                    List.of(),
                    List.of(
                        new HistoryReport.Base("staging", "2026-11-16T10:00:00Z", true, 2_000),
                        new HistoryReport.Base("live", "2026-11-10T10:00:00Z", false, 1)),
                    List.of(
                        new HistoryReport.RestorePoint(
                            "live", "2026-11-17T10:00:00Z", "live.sql.zst", 900)))))
        .isEqualTo(
            """
            Nothing was applied yet.
            Base: staging of 2026-11-16 10:00 UTC, 2.0 kB
            Earlier base: live of 2026-11-10 10:00 UTC, 1 byte
            Restore point: live of 2026-11-17 10:00 UTC, 900 bytes
              live.sql.zst
            """);
  }

  @Test
  void namesOfThingsCanNotMoveTheCursor() {
    assertThat(
            printed(
                new HistoryReport(
                    List.of(event("", false, List.of("page '\u001b[2J'"))), List.of(), List.of())))
        .doesNotContain("\u001b");
  }
}
