package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import weftex.cli.result.TidyReport;

class TidyTextTest {
  private static final TidyReport.Clear NO_CLEAR = new TidyReport.Clear(List.of(), List.of());
  private static final TidyReport.Compressed NO_TEXT = new TidyReport.Compressed(List.of(), 0, 0);

  private static String printed(TidyReport report) {
    return Printed.of(page -> TidyText.print(page, report));
  }

  @Test
  void nothingIsOldEnough() {
    assertThat(
            printed(
                new TidyReport(false, 30, 5, List.of(), List.of(), List.of(), NO_CLEAR, NO_TEXT)))
        .isEqualTo(
            """
            Nothing can go: every draft, receipt, earlier base and restore point is younger than 30 days, one of
            the newest, or needed by a base or an undo.
            """);
  }

  @Test
  void whatCanGoIsNamedByKindUpToThree() {
    List<TidyReport.Thing> things = new ArrayList<>();
    for (int i = 1; i <= 5; i++) {
      things.add(
          new TidyReport.Thing("draft", "000" + i + ".jsonl", "2026-10-0" + i + "T09:00:00Z", 500));
    }
    things.add(new TidyReport.Thing("receipt", "r1.jsonl", "2026-10-01T09:00:00Z", 1));
    assertThat(
            printed(new TidyReport(false, 30, 1, things, List.of(), List.of(), NO_CLEAR, NO_TEXT)))
        .isEqualTo(
            """
            Can go: 6 files, 2.5 kB.
              5 drafts:
                0001.jsonl, 2026-10-01 09:00 UTC, 500 bytes
                0002.jsonl, 2026-10-02 09:00 UTC, 500 bytes
                0003.jsonl, 2026-10-03 09:00 UTC, 500 bytes
                and 2 more
              1 receipt:
                r1.jsonl, 2026-10-01 09:00 UTC, 1 byte
            The newest of each kind stays, and whatever a base or an undo needs.
            Next: 'weftex tidy --yes' removes what can go.
            """);
  }

  @Test
  void scratchDatabasesClearFilesAndOldTextEachSayWhatIsDone() {
    TidyReport.Clear clear = new TidyReport.Clear(List.of("a.jsonl"), List.of("b.jsonl"));
    TidyReport.Compressed old = new TidyReport.Compressed(List.of("c.jsonl"), 5_000, 900);
    assertThat(
            printed(
                new TidyReport(
                    false, 30, 5, List.of(), List.of("scratch"), List.of("live"), clear, old)))
        .contains("Can go: scratch, into which a file was loaded")
        .contains("In the clear, and to be sealed: 1 file (such as a.jsonl).")
        .contains("1 draft stays in the clear (such as b.jsonl)")
        .contains("Can be compressed: 1 file (such as c.jsonl), 5.0 kB. All commands read them")
        .contains("'weftex restore live --remove-aside' removes it.")
        .endsWith(
            "Next: 'weftex tidy --yes' removes what can go, encrypts what is in the clear, compresses what is old.\n");
    assertThat(
            printed(
                new TidyReport(true, 30, 5, List.of(), List.of("scratch"), List.of(), clear, old)))
        .contains("Removed scratch")
        .contains("Encrypted 1 file")
        .contains("Compressed 1 file (such as c.jsonl), 5.0 kB to 900 bytes.")
        .doesNotContain("Next:");
  }
}
