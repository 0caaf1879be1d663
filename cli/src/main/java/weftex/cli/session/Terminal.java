package weftex.cli.session;

import java.util.Map;

/**
 * What is known of the terminal.
 *
 * @param width columns
 * @param colour whether styles are wanted
 * @param out whether standard output is a terminal
 * @param err whether standard error is one
 * @param in whether standard input is one, so that a question can be answered
 * @param dumb whether the terminal can't be written on but line by line
 */
public record Terminal(
    int width, boolean colour, boolean out, boolean err, boolean in, boolean dumb) {
  private static final int DEFAULT_WIDTH = 100;
  private static final int NARROWEST = 40;

  /**
   * Reads what the launcher found out: {@code WEFTEX_TERMINAL} names the streams that are
   * terminals, {@code COLUMNS} is the width.
   */
  public static Terminal of(Map<String, String> environment) {
    String streams = environment.getOrDefault("WEFTEX_TERMINAL", "");
    boolean out = streams.contains("out");
    boolean dumb = environment.getOrDefault("TERM", "dumb").equals("dumb");
    boolean colour = out && !environment.containsKey("NO_COLOR") && !dumb;
    return new Terminal(
        width(environment.getOrDefault("COLUMNS", "")),
        colour,
        out,
        streams.contains("err"),
        streams.contains("in"),
        dumb);
  }

  private static int width(String columns) {
    return columns.matches("[1-9]\\d{0,4}")
        ? Math.max(NARROWEST, Integer.parseInt(columns))
        : DEFAULT_WIDTH;
  }

  /** Whether somebody sits before it whose keys can be read and who sees what is shown. */
  public boolean isInteractive() {
    return in && out && !dumb;
  }

  /** The same terminal with nobody before it. */
  Terminal withoutAnswers() {
    return new Terminal(width, colour, out, err, false, dumb);
  }

  /** The same terminal without styles. */
  Terminal plain() {
    return new Terminal(width, false, out, err, in, dumb);
  }
}
