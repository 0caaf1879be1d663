package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.cli.result.MarkReport;
import weftex.cli.session.Took;
import weftex.store.compare.Likeness;
import weftex.store.file.FileRecord;

class MarkTextTest {
  private static final Likeness ALIKE = new Likeness(List.of(), List.of());

  private static MarkReport mark(boolean recorded, boolean replaces, Likeness likeness) {
    return new MarkReport(
        new MarkReport.Copies("staging", "live", "sqlite staging.db"),
        new MarkReport.Base("2026-11-20T08:30:00Z", recorded, replaces),
        new MarkReport.Contents(11, 1, List.of("sessions")),
        Optional.empty(),
        "",
        likeness,
        new Took(1.5, 2_400));
  }

  private static String printed(MarkReport mark) {
    return Printed.of(page -> MarkText.print(page, mark));
  }

  @Test
  void aBaseOfCopiesThatAreAlike() {
    assertThat(printed(mark(true, false, ALIKE)))
        .isEqualTo(
            """
            Recorded staging as the base: 1 row of 11 tables, 2026-11-20 08:30 UTC (2.4 kB, in 1.5 s).
            live has the same content.
            Left out as noise: sessions.

            Next: edit on staging, then 'weftex compare'.
            """);
    assertThat(printed(mark(true, true, ALIKE)))
        .contains("The base before is kept ('weftex mark --back'). Next: edit on staging");
  }

  @Test
  void whatIsLivesOwnIsNoDifference() {
    Likeness own =
        new Likeness(
            List.of(),
            List.of(
                new Likeness.Difference("comment", 3, 0, 0, List.of()),
                new Likeness.Difference("booking", 1, 2, 0, List.of())));
    assertThat(printed(mark(true, false, own)))
        .contains(
            "live has the same content, but for what is live's own: comment (3 more), booking (1 more, 2");
  }

  @Test
  void copiesThatDifferLeaveTheBaseThatIsThere() {
    Likeness apart =
        new Likeness(
            List.of(new Likeness.Difference("pages", 1, 2, 0, List.of("page 'Work with us'"))),
            List.of());
    assertThat(printed(mark(false, true, apart)))
        .startsWith(
            """
            The copies are not alike, so no base was recorded. The base that is there stays.

            """)
        .contains("page 'Work with us'")
        .doesNotContain("has the same content")
        .contains("--although-different");
    assertThat(printed(mark(false, false, apart)))
        .startsWith("The copies are not alike, so no base was recorded. Nothing was changed.\n");
  }

  @Test
  void filesAreCountedOrItIsSaidWhyNot() {
    MarkReport looked =
        new MarkReport(
            new MarkReport.Copies("staging", "live", "sqlite staging.db"),
            new MarkReport.Base("2026-11-20T08:30:00Z", true, false),
            new MarkReport.Contents(1, 1, List.of()),
            Optional.of(new FileRecord.Recorded(7, 12_000, 1, 2)),
            "no folder is named",
            ALIKE,
            new Took(0, 0));
    assertThat(printed(looked).replace('\n', ' '))
        .contains("Files that rows name: 7, 12 kB; 1 differs between the copies")
        .contains("; 2 that staging does not have.")
        .contains("Files were not looked at: no folder is named.");
  }
}
