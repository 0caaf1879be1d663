package weftex.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.command.Command;
import weftex.cli.command.CommandName;

/** What {@code --help} prints. */
final class Help {
  private static final int OPTION_WIDTH = 30;

  private Help() {}

  static Options withCommonOptions(Command command) {
    Options options = new Options();
    command.options().getOptions().forEach(options::addOption);
    options.addOption(
        Option.builder()
            .longOpt("config")
            .hasArg()
            .argName("FILE")
            .desc("the pair's file, weftex.yaml unless said")
            .get());
    options.addOption(Option.builder().longOpt("json").desc("print the result as JSON").get());
    options.addOption(Option.builder().longOpt("no-color").desc("print without colours").get());
    options.addOption(
        Option.builder()
            .longOpt("debug")
            .desc("on a failure, print where in the program it arose")
            .get());
    options.addOption(Option.builder("h").longOpt("help").desc("print this").get());
    return options;
  }

  static String overview() {
    StringBuilder text = new StringBuilder();
    text.append(
        """
        Weftex merges the content changes of a site's staging copy into its live database,
        row by row, and keeps what came in on live meanwhile.

        usage: weftex COMMAND [options]

        """);
    for (CommandName name : CommandName.values()) {
      text.append(String.format("  %-10s%s%n", name.word(), name.summary()));
    }
    text.append(
        """

        The usual way: pair, check, mark; work on staging; compare, draft, review, apply; undo if it is bad.
        'weftex COMMAND --help' tells more of each. 'weftex --version' prints the version.
        """);
    return text.toString();
  }

  static String of(CommandName name, Command command) {
    StringBuilder text = new StringBuilder();
    text.append("usage: weftex ")
        .append(name.word())
        .append(' ')
        .append(command.arguments())
        .append("\n\n");
    text.append(name.summary()).append(".\n\n");
    try {
      for (Option option : withCommonOptions(command).getOptions()) {
        appendOption(text, option);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    text.append("\nexamples:\n");
    command.examples().forEach(example -> text.append("  ").append(example).append('\n'));
    return text.toString();
  }

  private static void appendOption(Appendable text, Option option) throws IOException {
    String words =
        (option.getOpt() == null ? "    " : "-" + option.getOpt() + ", ")
            + "--"
            + option.getLongOpt()
            + (option.hasArg() ? " " + option.getArgName() : "");
    text.append("  ").append(words);
    if (words.length() >= OPTION_WIDTH) {
      text.append('\n').append(" ".repeat(OPTION_WIDTH + 2));
    } else {
      text.append(" ".repeat(OPTION_WIDTH - words.length()));
    }
    text.append(option.getDescription()).append('\n');
  }
}
