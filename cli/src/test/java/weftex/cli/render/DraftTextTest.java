package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import weftex.cli.result.DraftReport;
import weftex.cli.result.FilesReport;
import weftex.cli.result.InsideReport;
import weftex.cli.result.RolesReport;
import weftex.cli.session.Took;

class DraftTextTest {
  private static final FilesReport NO_FILES =
      new FilesReport(0, 0, 0, 0, 0, Map.of(), List.of(), Map.of(), "");
  private static final InsideReport NOTHING_INSIDE =
      new InsideReport(List.of(), List.of(), List.of(), List.of());
  private static final RolesReport NO_ROLES =
      new RolesReport(List.of(), Map.of(), List.of(), List.of());

  private static DraftReport report(
      List<String> schema,
      DraftReport.Open open,
      DraftReport.Decided decided,
      DraftReport.Sealed sealed) {
    return new DraftReport(
        new DraftReport.Named("0003.jsonl", " 0003.jsonl", "staging", "live"),
        new DraftReport.Made(7, schema, 4, 2, 1),
        open,
        NO_FILES,
        decided,
        NOTHING_INSIDE,
        NO_ROLES,
        sealed,
        new Took(0.6, 12_000));
  }

  private static final DraftReport.Open NOTHING_OPEN = new DraftReport.Open(0, 0, 0);
  private static final DraftReport.Decided NOTHING_DECIDED =
      new DraftReport.Decided(List.of(), 0, List.of());
  private static final DraftReport.Sealed FOR_ALL = new DraftReport.Sealed(List.of(), true);

  private static String printed(DraftReport report) {
    return Printed.of(page -> DraftText.print(page, report));
  }

  @Test
  void aDraftInWhichNothingIsOpen() {
    assertThat(printed(report(List.of(), NOTHING_OPEN, NOTHING_DECIDED, FOR_ALL)))
        .isEqualTo(
            """
            Drafted staging → live: 4 to add, 2 to update, 1 to remove.
            Change set: 0003.jsonl (12 kB, in 0.6 s)
            Next: weftex review 0003.jsonl
            """);
  }

  @Test
  void whatAPersonHasToDoIsCounted() {
    assertThat(printed(report(List.of(), new DraftReport.Open(1, 2, 1), NOTHING_DECIDED, FOR_ALL)))
        .contains("Rules of weftex.yaml decided 1 change.\n")
        .contains("1 change needs a decision.\n")
        .contains("2 more changes are offered: what chosen ones refer to, or what shows them.\n");
    assertThat(printed(report(List.of(), new DraftReport.Open(3, 1, 0), NOTHING_DECIDED, FOR_ALL)))
        .contains("3 changes need a decision.\n")
        .contains("1 more change is offered");
  }

  @Test
  void newTablesAreMadeFirst() {
    assertThat(
            printed(
                report(
                    List.of("table 'booking_offers'", "column 'routes.booking_fee'"),
                    NOTHING_OPEN,
                    NOTHING_DECIDED,
                    FOR_ALL)))
        .contains(
            "To be made first on live: table 'booking_offers', column 'routes.booking_fee'.\n");
  }

  @Test
  void whatWasDecidedBeforeHoldsOrFellAway() {
    DraftReport.Decided decided =
        new DraftReport.Decided(
            List.of("page 'Fares'"),
            2,
            List.of(
                new DraftReport.Fallen(
                    4, "page 'Winter'", "target", "title", "Mira", "", "staging edited it since")));
    assertThat(printed(report(List.of(), NOTHING_OPEN, decided, FOR_ALL)))
        .contains("Stays as live has it, since both changed it: page 'Fares'.\n")
        .contains("2 decisions of the earlier draft still hold.\n")
        .contains(
            """
            Fell away: keep live's side in title for page 'Winter', said by Mira,
                       since staging edited it since.
            """);
  }

  @Test
  void whoCanReadASealedOneIsNamed() {
    assertThat(
            printed(
                report(
                    List.of(),
                    NOTHING_OPEN,
                    NOTHING_DECIDED,
                    new DraftReport.Sealed(List.of("Mira", "Ola"), true))))
        .contains("Sealed for Mira, Ola: nobody else can read it.\n");
    assertThat(
            printed(
                report(
                    List.of(),
                    NOTHING_OPEN,
                    NOTHING_DECIDED,
                    new DraftReport.Sealed(List.of("Ola"), false))))
        .contains("nobody else can read it, not even you with the keys that are known here.\n");
  }
}
