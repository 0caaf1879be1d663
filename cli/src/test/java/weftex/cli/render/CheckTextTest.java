package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.cli.result.CheckReport;
import weftex.store.compare.Twins;

class CheckTextTest {
  private static CheckReport report(
      List<String> problems,
      List<String> warnings,
      Optional<String> base,
      Optional<List<Twins>> twins) {
    return new CheckReport(
        List.of(
            new CheckReport.CopyFound(
                "staging", "staging.db", "SQLite 3", "a file on this machine", "skf_", 12, 0),
            new CheckReport.CopyFound(
                "live", "live.db", "SQLite 3", "a file on this machine", "", 12, 1)),
        List.of(
            new CheckReport.TableFound("pages", "content", 1_200, 1_300, ""),
            new CheckReport.TableFound("offers", "content", 4, -1, "only on staging")),
        List.of(),
        problems,
        warnings,
        "",
        base,
        twins);
  }

  private static String printed(CheckReport report) {
    return Printed.of(page -> CheckText.print(page, report));
  }

  @Test
  void aPairInWhichNothingIsWrong() {
    assertThat(printed(report(List.of(), List.of(), Optional.empty(), Optional.empty())))
        .contains("(none)")
        .contains("The line to live: a file on this machine.\n")
        .contains("1,200")
        .containsPattern("offers +content +4 +— +only on staging")
        .contains("No problems found.\n")
        .endsWith(
            """
            Next: 'weftex mark' records the base while both copies are alike; 'weftex compare' shows what
            changed since.
            """);
  }

  @Test
  void aProblemIsToBeMendedFirst() {
    assertThat(
            printed(
                report(
                    List.of("staging says that it is live."),
                    List.of("live has triggers"),
                    Optional.of("staging of a week ago"),
                    Optional.empty())))
        .contains("Problem: staging says that it is live.\n")
        .contains("Worth knowing:\n  live has triggers\n")
        .doesNotContain("No problems found")
        .contains("Base: staging of a week ago.\n")
        .endsWith("Next: mend the problem, and check again.\n");
  }

  @Test
  void withABaseTheNextStepIsToCompare() {
    assertThat(
            printed(
                report(
                    List.of(), List.of(), Optional.of("staging of a week ago"), Optional.empty())))
        .endsWith("Next: 'weftex compare' shows what changed since the base.\n");
  }

  @Test
  void rowsUnderDifferentNumbersAndThoseThatAreGone() {
    assertThat(printed(report(List.of(), List.of(), Optional.empty(), Optional.of(List.of()))))
        .contains("No row has different IDs on the two copies.\n");
    assertThat(
            printed(
                report(
                    List.of(),
                    List.of(),
                    Optional.empty(),
                    Optional.of(
                        List.of(
                            new Twins("pages", 2, List.of()),
                            new Twins(
                                "notes",
                                1,
                                List.of(
                                    new Twins.Lone(
                                        BigInteger.valueOf(7),
                                        BigInteger.valueOf(12),
                                        List.of("staging", "live")))))))))
        .contains("pages: 2 rows under different IDs, all of them there\n")
        .contains(
            """
            notes: 1 row under different IDs
              staging 7, live 12: gone on staging and live
            """);
  }
}
