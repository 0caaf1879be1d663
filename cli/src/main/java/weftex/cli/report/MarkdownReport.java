package weftex.cli.report;

import java.io.PrintWriter;
import java.io.Writer;
import java.util.List;
import java.util.stream.Collectors;
import weftex.cli.page.WordMarks;

/** A report in CommonMark, for a ticket or a pull request. */
public final class MarkdownReport {
  private final PrintWriter out;

  private MarkdownReport(Writer out) {
    this.out = new PrintWriter(out);
  }

  /** Writes the report. */
  public static void write(Report report, Writer out) {
    new MarkdownReport(out).write(report);
  }

  private void write(Report report) {
    out.println("# " + plain(report.head().site()) + ": " + report.head().direction());
    out.println();
    out.println("Will be written: " + plain(report.head().target()) + "  ");
    out.println("SHA-256 of the change set: " + report.head().sha256() + "  ");
    report
        .head()
        .approvals()
        .forEach(approval -> out.println("Approved by " + plain(approval) + "  "));
    out.println(
        report.counts().stream()
            .map(count -> count.changes() + " " + count.standing())
            .collect(Collectors.joining(", ")));
    if (report.hasOpen()) {
      things("To decide", report.open());
    }
    report.groups().forEach(group -> things(group.kind(), group.things()));
    out.flush();
  }

  private void things(String title, List<Report.Thing> things) {
    out.println();
    out.println("## " + plain(title) + " (" + things.size() + ")");
    for (Report.Thing thing : things) {
      out.println();
      out.println(
          "### "
              + plain(thing.kind() + " " + thing.name())
              + " · "
              + thing.does()
              + " · "
              + thing.standing());
      thing.changes().forEach(this::change);
    }
  }

  private void change(Report.Change change) {
    out.println();
    out.println(
        "- **" + change.number() + "** " + plain(change.title()) + " · " + change.standing());
    for (Report.Question question : change.questions()) {
      out.println("  - **" + question.kind() + "**: " + plain(question.reason()));
      question.answers().forEach(answer -> out.println("    - " + plain(answer)));
      for (Report.Sides sides : question.sides()) {
        out.println(
            "    - "
                + plain(sides.column())
                + ": base "
                + text(sides.base(), "~~")
                + ", source "
                + text(sides.source(), "**")
                + ", target "
                + text(sides.target(), "**"));
      }
    }
    for (Report.Cell cell : change.cells()) {
      String before = text(cell.before(), "~~");
      String after = text(cell.after(), "**");
      out.println(
          "  - "
              + plain(cell.column())
              + ": "
              + (before.isEmpty() ? after : after.isEmpty() ? before : before + " → " + after));
    }
    change.statements().forEach(sql -> out.println("  - " + plain(sql)));
    change.notes().forEach(note -> out.println("  - " + plain(note)));
  }

  private static String text(List<WordMarks.Piece> pieces, String mark) {
    StringBuilder text = new StringBuilder();
    for (WordMarks.Piece piece : pieces) {
      if (piece.isGap()) {
        text.append(" … ");
      } else if (piece.changed() && !piece.text().isBlank()) {
        // Marks only hold where a word begins and ends.
        text.append(mark).append(plain(piece.text().strip())).append(mark).append(' ');
      } else {
        text.append(plain(piece.text()));
      }
    }
    return text.toString().strip();
  }

  /** Content as it is, whatever it would mean as markup; on one line. */
  private static String plain(String text) {
    return text.replaceAll("\\s+", " ").replaceAll("([\\\\`*_{}\\[\\]()#+!|<>~&-])", "\\\\$1");
  }
}
