package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.cli.result.ScanReport;
import weftex.core.model.Role;
import weftex.core.scan.FindingKind;
import weftex.store.scan.FolderScan;

class ScanTextTest {
  private static ScanReport.Sort sort(
      String kind, Role role, long rows, Map<String, Long> hits, String... keys) {
    return new ScanReport.Sort(
        kind,
        "what that means",
        "pages",
        "body",
        role.words(),
        rows,
        hits,
        List.of(keys).stream().map(key -> new ScanReport.First(key, "said there")).toList());
  }

  private static ScanReport report(Optional<FolderScan> folders, ScanReport.Sort... sorts) {
    return new ScanReport(
        "live",
        "sqlite live.db",
        13,
        1_285,
        List.of(sorts),
        folders,
        Map.of("leftovers", "staging's address is not known"));
  }

  private static String printed(ScanReport report) {
    return Printed.of(page -> ScanText.print(page, report));
  }

  @Test
  void aCopyInWhichNothingIsWrong() {
    assertThat(printed(report(Optional.empty())))
        .isEqualTo(
            """
            live   sqlite live.db: 1,285 rows of 13 tables

            Nothing is wrong in what is content.
            Not looked for: leftovers, since staging's address is not known.
            """);
  }

  @Test
  void findingsOfAKindStandTogetherAndTheFirstAreNamed() {
    ScanReport report =
        report(
            Optional.empty(),
            sort("leftover", Role.CONTENT, 3, Map.of("plain", 2L, "escaped", 4L), "4", "9"),
            sort("leftover", Role.LIVE, 1, Map.of("", 1L), "7"));
    assertThat(report.isClean()).isFalse();
    assertThat(printed(report))
        .contains(
            """
            leftover: what that means
              pages.body: 3 rows (escaped 4, plain 2)
                4 · said there
                9 · said there
                … --limit names more of them
              pages.body (%s): 1 row
                7 · said there
            """
                .formatted(Role.LIVE.words()))
        .doesNotContain("Nothing is wrong");
  }

  @Test
  void noiseHurtsNobodyAndWhatMayBeMeantSoIsNoFault() {
    ScanReport report =
        report(
            Optional.empty(),
            sort("leftover", Role.NOISE, 2, Map.of("", 2L), "1"),
            sort(FindingKind.MENTION.label(), Role.CONTENT, 1, Map.of("", 1L), "2"));
    assertThat(report.isClean()).isTrue();
    assertThat(printed(report))
        .contains("Nothing is wrong in what is content.\n")
        .contains(
            "In noise, permanent identifiers and settings of the copy, where it hurts nobody:\n"
                + "  leftover, pages.body: 2 rows\n");
  }

  @Test
  void foldersOfFiles() {
    FolderScan folders =
        new FolderScan(
            12, 34_000, List.of("media/old.jpg"), 2, 5_000, List.of(List.of("a", "b")), 1, 700);
    assertThat(printed(report(Optional.of(folders))))
        .contains(
            """
            Folders of files: 12 files, 34 kB.
              No row names 2 files, 5.0 kB:
                media/old.jpg
                … --limit names more of them
              The same is there more than once: 1 content, 700 bytes too many:
                a = b
            """);
  }
}
