package weftex.cli.report;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.StringWriter;
import java.util.List;
import org.junit.jupiter.api.Test;
import weftex.cli.page.WordMarks;

/** The same report as text with marks and as comma-separated values. */
class WrittenReportTest {
  private static WordMarks.Piece same(String text) {
    return new WordMarks.Piece(text, false, 0);
  }

  private static WordMarks.Piece changed(String text) {
    return new WordMarks.Piece(text, true, 0);
  }

  private static Report.Change change(
      int number, List<Report.Cell> cells, List<Report.Question> questions, String... statements) {
    return new Report.Change(
        number,
        "update pages 4",
        questions.isEmpty() ? "apply" : "decide",
        cells,
        questions,
        List.of("It needs change 2."),
        List.of(statements),
        List.of());
  }

  private static Report report(List<Report.Thing> open, Report.Thing... others) {
    return new Report(
        new Report.Head(
            "skerrow", "staging", "live", "live.db", "", "then", "ab12", List.of("Mira, then")),
        List.of(new Report.Count("to apply", 2), new Report.Count("kept", 1)),
        List.of(),
        open,
        List.of(new Report.Group("page", List.of(others))));
  }

  private static Report.Thing thing(String name, Report.Change... changes) {
    return new Report.Thing("t1", "page", name, "updated", "apply", List.of(changes));
  }

  private static String markdown(Report report) {
    StringWriter out = new StringWriter();
    MarkdownReport.write(report, out);
    return out.toString();
  }

  private static String csv(Report report) throws IOException {
    StringWriter out = new StringWriter();
    CsvReport.write(report, out);
    return out.toString();
  }

  private static final Report.Cell TITLE =
      new Report.Cell(
          "title",
          List.of(same("Winter "), changed("timetable")),
          List.of(same("Winter "), changed("sailings")));

  @Test
  void aChangeIsALineWithWhatWasAndWhatWillBe() throws IOException {
    Report report = report(List.of(), thing("Winter", change(3, List.of(TITLE), List.of())));
    assertThat(markdown(report))
        .isEqualToNormalizingNewlines(
            """
            # skerrow: staging → live

            Will be written: live.db \s
            SHA-256 of the change set: ab12 \s
            Approved by Mira, then \s
            2 to apply, 1 kept

            ## page (1)

            ### page Winter · updated · apply

            - **3** update pages 4 · apply
              - title: Winter ~~timetable~~ → Winter **sailings**
              - It needs change 2.
            """);
    assertThat(csv(report))
        .isEqualToNormalizingNewlines(
            """
            change,standing,kind,name,title,column,before,after,conflicts,notes
            3,apply,page,Winter,update pages 4,title,Winter timetable,Winter sailings,,It needs change 2.
            """);
  }

  @Test
  void contentIsNeverTakenForMarkup() {
    assertThat(markdown(report(List.of(), thing("*bold* <b> [x](y)\n# not a title"))))
        .contains("### page \\*bold\\* \\<b\\> \\[x\\]\\(y\\) \\# not a title · updated");
  }

  @Test
  void contentIsNeverTakenForAFormula() throws IOException {
    Report.Cell formula =
        new Report.Cell("title", List.of(same("+1")), List.of(same("=HYPERLINK(\"x\")")));
    assertThat(csv(report(List.of(), thing("@cmd", change(1, List.of(formula), List.of())))))
        .contains("'@cmd")
        .contains("'+1")
        .contains("'=HYPERLINK");
  }

  @Test
  void whatIsOpenComesFirstWithItsSidesAndAnswers() throws IOException {
    Report.Question question =
        new Report.Question(
            "both-edited",
            "both copies changed it",
            List.of("take staging's side"),
            List.of(
                new Report.Sides(
                    "title", List.of(same("a")), List.of(changed("b")), List.of(changed("c")))));
    Report report =
        report(
            List.of(thing("Fares", change(1, List.of(), List.of(question)))),
            thing("Winter", change(2, List.of(TITLE), List.of())));
    assertThat(markdown(report))
        .containsSubsequence("## To decide (1)", "## page (1)")
        .contains("  - **both-edited**: both copies changed it")
        .contains("    - take staging's side")
        .contains("    - title: base a, source **b**, target **c**");
    assertThat(csv(report).lines().skip(1))
        .first()
        .asString()
        .startsWith("1,decide,page,Fares")
        .contains("both-edited");
  }

  @Test
  void aNewTableIsWhatIsMade() throws IOException {
    Report report =
        report(List.of(), thing("offers", change(1, List.of(), List.of(), "CREATE TABLE offers")));
    assertThat(markdown(report)).contains("  - CREATE TABLE offers");
    assertThat(csv(report)).contains("CREATE TABLE offers");
  }

  @Test
  void whatIsAlikeInALongTextIsAGap() throws IOException {
    Report.Cell gap =
        new Report.Cell(
            "body", List.of(same("a"), new WordMarks.Piece("", false, 120), same("b")), List.of());
    Report report = report(List.of(), thing("Winter", change(1, List.of(gap), List.of())));
    assertThat(markdown(report)).contains("- body: a … b");
    assertThat(csv(report)).contains("a … b");
  }
}
