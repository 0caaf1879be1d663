package weftex.cli.command;

import org.apache.commons.cli.CommandLine;
import weftex.store.Refusal;

/** Reads options that are numbers. */
final class Numbers {
  private Numbers() {}

  /**
   * A whole number from 1.
   *
   * @param otherwise what counts if the option is not given
   * @param command for the way to help
   */
  static int positive(CommandLine line, String option, String otherwise, String command)
      throws Refusal {
    String text = line.getOptionValue(option, otherwise);
    if (!text.matches("[1-9]\\d{0,8}")) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--" + option + " takes a whole number from 1, not '" + text + "'. Nothing was changed.",
          "See 'weftex " + command + " --help'.");
    }
    return Integer.parseInt(text);
  }
}
