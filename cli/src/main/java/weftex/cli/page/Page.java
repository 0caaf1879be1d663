package weftex.cli.page;

import java.io.PrintStream;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.cli.session.Terminal;

/** Writes text for a person, no wider than the terminal. */
public final class Page {
  private static final Pattern STYLE = Pattern.compile("\u001B\\[(0|1|2|35)m");

  private final PrintStream out;
  private final Terminal terminal;

  public Page(PrintStream out, Terminal terminal) {
    this.out = out;
    this.terminal = terminal;
  }

  public int width() {
    return terminal.width();
  }

  /**
   * A line. Whatever is not a style of this page is shown, and never acts on the terminal: names
   * and values come from files and databases of others.
   */
  public void line(String text) {
    StringBuilder shown = new StringBuilder();
    Matcher style = STYLE.matcher(text);
    int at = 0;
    while (terminal.colour() && style.find()) {
      shown.append(Visible.line(text.substring(at, style.start()))).append(style.group());
      at = style.end();
    }
    out.println(shown.append(Visible.line(text.substring(at))));
  }

  public void blank() {
    out.println();
  }

  /** Text that leads. */
  public String strong(String text) {
    return styled("1", text);
  }

  /** Text that asks for attention. */
  public String alert(String text) {
    return styled("35", text);
  }

  /** Text that stands back. */
  public String faint(String text) {
    return styled("2", text);
  }

  private String styled(String code, String text) {
    return terminal.colour() ? "\u001B[" + code + "m" + text + "\u001B[0m" : text;
  }

  /** A table's column: its heading, and whether its cells are numbers. */
  public record Heading(String text, boolean number) {
    public static Heading text(String text) {
      return new Heading(text, false);
    }

    public static Heading number(String text) {
      return new Heading(text, true);
    }
  }

  /** A table without lines; where the terminal is too narrow, cells break between words. */
  public void table(List<Heading> headings, List<List<String>> cells) {
    List<List<String>> rows =
        cells.stream().map(row -> row.stream().map(Visible::line).toList()).toList();
    TextTable table = new TextTable(headings, rows, width());
    table.heading().forEach(line -> line(strong(line)));
    table.body().forEach(this::line);
  }

  /** Running text, broken between words where the line ends. */
  public void words(String text) {
    Columns.wrapped(text, width()).forEach(this::line);
  }

  /** The same under an indent. */
  public void words(int indent, String text) {
    Columns.wrapped(text, Math.max(20, width() - indent))
        .forEach(line -> line(" ".repeat(indent) + line));
  }

  /** A text whose further lines begin under an indent. */
  public void hanging(int indent, String text) {
    String bare = text.stripLeading();
    List<String> lines = Columns.wrapped(bare, Math.max(20, width() - indent));
    line(" ".repeat(text.length() - bare.length()) + lines.get(0));
    lines.stream().skip(1).forEach(line -> line(" ".repeat(indent) + line));
  }

  /**
   * The same under an indent, further lines a little deeper.
   *
   * @param lead a word that asks for attention, before a colon
   */
  public void words(int indent, String lead, String text) {
    List<String> lines = Columns.wrapped(lead + ": " + text, Math.max(20, width() - indent - 2));
    line(" ".repeat(indent) + alert(lead) + lines.get(0).substring(lead.length()));
    lines.stream().skip(1).forEach(line -> line(" ".repeat(indent + 2) + line));
  }

  /** A text on one line, without control characters, cut to a width. */
  public static String shortened(String text, int width) {
    StringBuilder clean = new StringBuilder();
    text.codePoints()
        .limit(Math.max(width, 1) * 4L)
        .forEach(c -> clean.append(isShown(c) ? Character.toString(c) : c == '\n' ? "⏎" : "·"));
    int points = clean.codePointCount(0, clean.length());
    if (points <= width) {
      return clean.toString();
    }
    return clean.substring(0, clean.offsetByCodePoints(0, Math.max(0, width - 1))) + "…";
  }

  private static boolean isShown(int c) {
    int type = Character.getType(c);
    return type != Character.CONTROL && type != Character.FORMAT && type != Character.SURROGATE;
  }
}
