package weftex.cli.paint;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.cli.page.Columns;
import weftex.cli.page.Visible;
import weftex.cli.page.WordMarks;
import weftex.core.row.Value;

/** Lines of text as they are written down, one below the other. */
public final class TextLines {
  public static final int NAME_WIDTH = 16;
  private static final int FOLDED = 6;
  private static final int CONTEXT = 60;
  private static final Pattern TAG = Pattern.compile("<[^<>]{1,400}>");
  private static final Pattern BLOCK_END =
      Pattern.compile(
          "(?i)(</(?:p|li|ul|ol|h[1-6]|div|table|tr|blockquote|figure)>|<br ?/?>)(?!\\s*(?:\\n|$))");

  private final int width;
  private final boolean whole;
  private final List<Line> lines = new ArrayList<>();

  /**
   * @param width columns that a line may take
   * @param whole whether long texts are written out
   */
  public TextLines(int width, boolean whole) {
    this.width = width;
    this.whole = whole;
  }

  public void add(Line line) {
    lines.add(line);
  }

  /** All of them. */
  public List<Line> all() {
    return lines;
  }

  /** Adds a sentence. */
  public void say(String text, Style style) {
    wrapped(List.of(new Line.Span(text, style)), 0, Optional.empty());
  }

  /**
   * Adds running text.
   *
   * @param spot what the first line stands for
   */
  public void wrapped(List<Line.Span> spans, int indent, Optional<Line.Spot> spot) {
    boolean first = true;
    for (List<Line.Span> line : Wrap.lines(spans, Math.max(10, width - indent))) {
      List<Line.Span> own = new ArrayList<>();
      own.add(new Line.Span(" ".repeat(indent), Style.PLAIN));
      own.addAll(line);
      lines.add(new Line(own, first ? spot : Optional.empty()));
      first = false;
    }
  }

  /** A text of a few lines at most. */
  public String cut(String text) {
    return whole ? text : Columns.cut(text, width * 3);
  }

  /** Adds a value under its name. */
  public void one(String column, Value value, Style style, Line.Spot spot) {
    List<Line.Span> spans = new ArrayList<>();
    markup(text(value), style == Style.OLD ? Style.FAINT : Style.PLAIN, spans);
    List<List<Line.Span>> wrapped = Wrap.lines(spans, Math.max(10, width - NAME_WIDTH - 2));
    int shown = whole ? wrapped.size() : Math.min(FOLDED, wrapped.size());
    for (int i = 0; i < shown; i++) {
      List<Line.Span> own = new ArrayList<>();
      own.add(
          new Line.Span(
              "  " + Columns.fit(i == 0 ? Visible.text(column) : "", NAME_WIDTH), Style.PLAIN));
      own.addAll(wrapped.get(i));
      lines.add(new Line(own, i == 0 ? Optional.of(spot) : Optional.empty()));
    }
    if (shown < wrapped.size()) {
      lines.add(
          Line.of(
              " ".repeat(NAME_WIDTH + 2)
                  + "… "
                  + (wrapped.size() - shown)
                  + " more lines; w shows them",
              Style.FAINT));
    }
  }

  /** Adds a text behind a word that says whose it is. */
  public void side(String word, List<Line.Span> spans) {
    List<List<Line.Span>> wrapped = Wrap.lines(spans, Math.max(10, width - 12));
    for (int i = 0; i < wrapped.size(); i++) {
      List<Line.Span> own = new ArrayList<>();
      own.add(new Line.Span("    " + Columns.fit(i == 0 ? word : "", 8), Style.FAINT));
      own.addAll(wrapped.get(i));
      lines.add(new Line(own, Optional.empty()));
    }
  }

  /** Pieces of a text, those that were changed in a style of their own. */
  public List<Line.Span> pieces(List<WordMarks.Piece> pieces, Style changed) {
    List<Line.Span> spans = new ArrayList<>();
    for (WordMarks.Piece piece : pieces) {
      if (piece.isGap()) {
        spans.add(new Line.Span(" … ", Style.FAINT));
      } else if (piece.changed()) {
        spans.add(new Line.Span(piece.text(), changed));
      } else {
        markup(piece.text(), Style.PLAIN, spans);
      }
    }
    return spans;
  }

  /** Running text with its tags standing back, and a new line after what ends a block. */
  private static void markup(String text, Style style, List<Line.Span> spans) {
    String broken = BLOCK_END.matcher(text).replaceAll("$1\n");
    Matcher tag = TAG.matcher(broken);
    int at = 0;
    while (tag.find()) {
      if (tag.start() > at) {
        spans.add(new Line.Span(broken.substring(at, tag.start()), style));
      }
      spans.add(new Line.Span(tag.group(), Style.FAINT));
      at = tag.end();
    }
    if (at < broken.length()) {
      spans.add(new Line.Span(broken.substring(at), style));
    }
  }

  /** In which words two texts differ. */
  public WordMarks.Marked marks(String one, String other) {
    return whole ? WordMarks.compareWhole(one, other) : WordMarks.compare(one, other);
  }

  /** Texts side by side, each under its heading. */
  public void besides(Map<String, List<Line.Span>> columns) {
    int own = (width - 4) / columns.size() - 2;
    List<List<List<Line.Span>>> wrapped = new ArrayList<>();
    Line.Builder headings = new Line.Builder().add("    ", Style.PLAIN);
    columns.forEach(
        (heading, spans) -> {
          headings.add(Columns.fit(heading, own) + "  ", Style.FAINT);
          wrapped.add(Wrap.lines(spans, own));
        });
    lines.add(headings.build());
    int height = wrapped.stream().mapToInt(List::size).max().orElse(0);
    for (int row = 0; row < height; row++) {
      Line.Builder line = new Line.Builder().add("    ", Style.PLAIN);
      for (List<List<Line.Span>> column : wrapped) {
        int used = 0;
        if (row < column.size()) {
          for (Line.Span span : column.get(row)) {
            line.add(span.text(), span.style());
            used += Columns.width(span.text());
          }
        }
        line.add(" ".repeat(Math.max(0, own + 2 - used)), Style.PLAIN);
      }
      lines.add(line.build());
    }
  }

  /** The words before a passage. */
  public static String lastOf(String text) {
    if (text.codePointCount(0, text.length()) <= CONTEXT) {
      return text;
    }
    String end = text.substring(text.offsetByCodePoints(text.length(), -CONTEXT));
    return "…" + end.substring(Math.max(0, end.indexOf(' ')));
  }

  /** The words behind a passage. */
  public static String firstOf(String text) {
    if (text.codePointCount(0, text.length()) <= CONTEXT) {
      return text;
    }
    String start = text.substring(0, text.offsetByCodePoints(0, CONTEXT));
    return start.substring(0, start.lastIndexOf(' ') < 1 ? start.length() : start.lastIndexOf(' '))
        + " …";
  }

  /** A value that can be shown. */
  public static String text(Value value) {
    return value == null ? "" : Visible.text(value.display());
  }
}
