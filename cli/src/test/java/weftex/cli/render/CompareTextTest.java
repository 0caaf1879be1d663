package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.cli.result.CompareReport;
import weftex.cli.result.CompareReport.TableCompared;
import weftex.cli.result.FilesReport;
import weftex.cli.result.InsideReport;
import weftex.cli.result.ItemReport;
import weftex.cli.result.RolesReport;

class CompareTextTest {
  private static TableCompared table(
      String name, String role, boolean chosen, TableCompared.OnSource source, long onTarget) {
    return new TableCompared(
        name, role, chosen, 1_200, source, new TableCompared.OnTarget(onTarget, 0, 0), 0);
  }

  private static CompareReport report(
      Optional<String> base, List<TableCompared> tables, List<ItemReport> items) {
    return new CompareReport(
        new CompareReport.Copies("staging", "live", base),
        tables,
        Map.of("visits", "noise"),
        new CompareReport.Things(items, 0),
        new FilesReport(0, 0, 0, 0, 0, Map.of(), List.of(), Map.of(), ""),
        new InsideReport(List.of(), List.of(), List.of(), List.of()),
        new RolesReport(List.of(), Map.of(), List.of(), List.of()),
        new CompareReport.Listed(List.of(), 0));
  }

  private static String printed(CompareReport report) {
    return Printed.of(page -> CompareText.printTables(page, report));
  }

  private static final TableCompared.OnSource NOTHING = new TableCompared.OnSource(0, 0, 0);

  @Test
  void copiesThatAreAlike() {
    CompareReport alike =
        report(
            Optional.of("staging of a week ago"),
            List.of(
                table("pages", "content", true, NOTHING, 0),
                table("fares", "content", true, NOTHING, 0)),
            List.of());
    assertThat(alike.tables()).allMatch(TableCompared::isUnchanged);
    assertThat(printed(alike))
        .startsWith("staging → live   base: staging of a week ago\n\nNo table differs.\n")
        .contains("2 tables are unchanged on both copies.\n")
        .contains("Not compared: visits, noise.\n");
  }

  @Test
  void tablesThatDifferStandInColumnsAndZeroesDoNotShout() {
    String text =
        printed(
            report(
                Optional.of("staging of a week ago"),
                List.of(
                    table("pages", "content", true, new TableCompared.OnSource(4, 1, 0), 2),
                    table("fares", "content", true, NOTHING, 0)),
                List.of()));
    assertThat(text)
        .containsPattern("pages +1,200 +4 +1 +· +2 +· +· +·")
        .contains("1 table is unchanged on both copies.\n");
  }

  @Test
  void whatIsLeftOutIsMarkedAndSaidWhy() {
    assertThat(
            printed(
                report(
                    Optional.of("base"),
                    List.of(
                        table("bookings", "live's own", false, NOTHING, 3),
                        table("drafts", "content", false, NOTHING, 1)),
                    List.of())))
        .contains(" bookings *")
        .contains(
            "* Left out of a draft unless asked for by name: bookings (live's own), drafts (not chosen).");
  }

  @Test
  void withoutABaseEveryDifferenceIsAQuestion() {
    assertThat(printed(report(Optional.empty(), List.of(), List.of())))
        .startsWith("staging → live   without a base: every difference is a question\n");
  }

  @Test
  void thingsAreNamedAsAPersonKnowsThem() {
    assertThat(
            printed(
                report(
                    Optional.of("base"),
                    List.of(
                        table("pages", "content", true, new TableCompared.OnSource(0, 1, 0), 0)),
                    List.of(
                        new ItemReport(
                            "page", "Fares", "update", List.of("title"), Map.of(), List.of(), 1)))))
        .contains("page 'Fares'")
        .contains("title");
  }

  @Test
  void aSideThatOnlyTheTargetChangedIsNoChangeOfTheSource() {
    TableCompared onTarget = table("pages", "content", true, NOTHING, 1);
    assertThat(onTarget.isUnchanged()).isFalse();
    TableCompared onSource =
        table("pages", "content", true, new TableCompared.OnSource(0, 0, 1), 0);
    assertThat(onSource.isUnchanged()).isFalse();
  }

  @Test
  void manyThingsAreCountedBeyondTheFirst() {
    CompareReport many =
        new CompareReport(
            new CompareReport.Copies("staging", "live", Optional.of("base")),
            List.of(table("pages", "content", true, new TableCompared.OnSource(9, 0, 0), 0)),
            Map.of(),
            new CompareReport.Things(
                List.of(new ItemReport("page", "Fares", "add", List.of(), Map.of(), List.of(), 1)),
                8),
            new FilesReport(0, 0, 0, 0, 0, Map.of(), List.of(), Map.of(), ""),
            new InsideReport(List.of(), List.of(), List.of(), List.of()),
            new RolesReport(List.of(), Map.of(), List.of(), List.of()),
            new CompareReport.Listed(List.of(), 0));
    assertThat(printed(many)).contains("page 'Fares' · added").contains("8 more");
  }
}
