package weftex.cli.paint;

import java.util.ArrayList;
import java.util.List;
import weftex.cli.page.Columns;

/** Lays text out in columns of a terminal, where some characters take two of them and some none. */
public final class Wrap {
  private Wrap() {}

  /**
   * Spans in lines of at most a width, broken at blanks where there are any and at line feeds.
   *
   * @return at least one line
   */
  public static List<List<Line.Span>> lines(List<Line.Span> spans, int width) {
    List<List<Line.Span>> lines = new ArrayList<>();
    List<Line.Span> line = new ArrayList<>();
    int at = 0;
    for (Line.Span span : spans) {
      for (String word : span.text().split("(?<=[\\s])|(?=\\n)|(?<=[>;,}])(?=\\S)")) {
        if (word.equals("\n")) {
          lines.add(closed(line));
          line = new ArrayList<>();
          at = 0;
          continue;
        }
        String left = word.replace("\t", " ".repeat(Columns.TAB));
        if (at > 0 && at + Columns.width(left.stripTrailing()) > width) {
          lines.add(closed(line));
          line = new ArrayList<>();
          at = 0;
        }
        while (Columns.width(left.stripTrailing()) > width) {
          String head = head(left, width);
          line.add(new Line.Span(head, span.style()));
          lines.add(line);
          line = new ArrayList<>();
          left = left.substring(head.length());
        }
        line.add(new Line.Span(left, span.style()));
        at += Columns.width(left);
      }
    }
    lines.add(closed(line));
    return lines;
  }

  /** A line without the blank at which it was broken. */
  private static List<Line.Span> closed(List<Line.Span> line) {
    if (line.isEmpty()) {
      return line;
    }
    List<Line.Span> closed = new ArrayList<>(line.subList(0, line.size() - 1));
    Line.Span last = line.get(line.size() - 1);
    closed.add(new Line.Span(last.text().stripTrailing(), last.style()));
    return closed;
  }

  /** As much of a long word as a width takes, and at least one character. */
  private static String head(String word, int width) {
    StringBuilder head = new StringBuilder();
    int at = 0;
    for (int c : word.codePoints().toArray()) {
      if (at + Columns.width(c) > width && head.length() > 0) {
        break;
      }
      at += Columns.width(c);
      head.appendCodePoint(c);
    }
    return head.toString();
  }
}
