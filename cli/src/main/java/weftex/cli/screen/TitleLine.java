package weftex.cli.screen;

import java.util.List;
import java.util.Map;
import org.jline.utils.AttributedString;
import weftex.cli.page.Columns;
import weftex.cli.page.Visible;
import weftex.cli.paint.Line;
import weftex.cli.paint.Painter;
import weftex.cli.paint.Style;
import weftex.core.change.Review;

/** The first line of the screen: from where to where, and how the change set stands. */
record TitleLine(Desk desk, Painter painter, String file) {

  AttributedString of(int columns) {
    String direction = desk.header().from() + " → " + desk.header().into();
    StringBuilder counts = new StringBuilder();
    Map<Review.Standing, Integer> standings = desk.standings().all();
    add(counts, standings.get(Review.Standing.OPEN), "to decide");
    add(counts, standings.get(Review.Standing.MADE), "to apply");
    add(counts, standings.get(Review.Standing.SKIPPED), "left out");
    add(counts, standings.get(Review.Standing.OFFERED), "offered");
    String state =
        desk.isApproved() ? "approved" : desk.cannotWrite().isPresent() ? "read only" : "";
    add(counts, state);
    int room = columns - Columns.width(direction) - Columns.width(counts.toString()) - 4;
    String name = room < 12 ? "" : Columns.cut("  " + Visible.text(file), room);
    int gap = columns - Columns.width(direction + name + counts);
    return painter.line(
        List.of(
            new Line.Span(direction, Style.STRONG),
            new Line.Span(name + " ".repeat(Math.max(2, gap)), Style.PLAIN),
            new Line.Span(counts.toString(), Style.STRONG)),
        columns,
        true);
  }

  private static void add(StringBuilder counts, Integer count, String word) {
    if (count != null) {
      add(counts, count + " " + word);
    }
  }

  private static void add(StringBuilder counts, String text) {
    if (!text.isEmpty()) {
      counts.append(counts.length() == 0 ? "" : ", ").append(text);
    }
  }
}
