package weftex.cli.report;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import weftex.cli.page.Visible;
import weftex.cli.page.WordMarks;
import weftex.core.change.Action;
import weftex.core.change.RowChange;
import weftex.core.row.Value;

/** Values and counts as a report shows them. */
final class ReportValues {

  private ReportValues() {}

  static List<Report.Cell> cells(RowChange change) {
    List<Report.Cell> cells = new ArrayList<>();
    Map<String, Value> shown = change.action() == Action.REMOVE ? change.before() : change.after();
    shown.forEach(
        (column, value) -> {
          boolean both = change.action() == Action.UPDATE;
          if (both) {
            WordMarks.Marked marked =
                WordMarks.compare(text(change.before().get(column)), text(value));
            cells.add(new Report.Cell(column, marked.before(), marked.after()));
          } else {
            List<WordMarks.Piece> whole = WordMarks.whole(text(value));
            boolean added = change.action() == Action.ADD;
            cells.add(
                new Report.Cell(column, added ? List.of() : whole, added ? whole : List.of()));
          }
        });
    return cells;
  }

  static String text(Value value) {
    return value == null ? "" : Visible.text(value.display());
  }

  static int column(String does) {
    return switch (does) {
      case "updated" -> 1;
      case "removed" -> 2;
      default -> 0;
    };
  }

  static List<Report.Bar> bars(Map<String, long[]> tallies) {
    double most = tallies.values().stream().mapToLong(t -> t[0] + t[1] + t[2]).max().orElse(1);
    List<Report.Bar> bars = new ArrayList<>();
    tallies.forEach(
        (kind, tally) -> {
          Report.Share[] shares = new Report.Share[3];
          double from = 0;
          for (int i = 0; i < 3; i++) {
            double width = 100 * tally[i] / most;
            shares[i] = new Report.Share(tally[i], from, width);
            from += width;
          }
          bars.add(
              new Report.Bar(
                  Visible.text(kind),
                  shares[0],
                  shares[1],
                  shares[2],
                  tally[0] + tally[1] + tally[2]));
        });
    return bars;
  }
}
