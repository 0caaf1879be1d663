package weftex.cli.report;

import java.io.IOException;
import java.io.Writer;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import weftex.cli.page.WordMarks;

/** A report as comma-separated values (RFC 4180), a line for each column that changes. */
public final class CsvReport {
  private static final String[] COLUMNS = {
    "change", "standing", "kind", "name", "title", "column", "before", "after", "conflicts", "notes"
  };

  private CsvReport() {}

  /** Writes the report. */
  public static void write(Report report, Writer out) throws IOException {
    CSVFormat format = CSVFormat.RFC4180.builder().setHeader(COLUMNS).get();
    try (CSVPrinter printer = new CSVPrinter(out, format)) {
      List<Report.Thing> things =
          Stream.concat(
                  report.open().stream(),
                  report.groups().stream().flatMap(g -> g.things().stream()))
              .toList();
      for (Report.Thing thing : things) {
        for (Report.Change change : thing.changes()) {
          if (change.cells().isEmpty()) {
            print(printer, thing, change, "", "", String.join(" ", change.statements()));
          }
          for (Report.Cell cell : change.cells()) {
            print(printer, thing, change, cell.column(), text(cell.before()), text(cell.after()));
          }
        }
      }
    }
  }

  private static void print(
      CSVPrinter printer,
      Report.Thing thing,
      Report.Change change,
      String column,
      String before,
      String after)
      throws IOException {
    printer.printRecord(
        change.number(),
        change.standing(),
        safe(thing.kind()),
        safe(thing.name()),
        safe(change.title()),
        safe(column),
        safe(before),
        safe(after),
        change.questions().stream().map(Report.Question::kind).collect(Collectors.joining(" ")),
        safe(String.join(" ", change.notes())));
  }

  /** A spreadsheet would take what begins like a formula for one, and work it out. */
  private static String safe(String text) {
    return !text.isEmpty() && "=+-@\t\r".indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
  }

  private static String text(List<WordMarks.Piece> pieces) {
    return pieces.stream()
        .map(piece -> piece.isGap() ? " … " : piece.text())
        .collect(Collectors.joining());
  }
}
