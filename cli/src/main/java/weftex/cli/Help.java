package weftex.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import org.apache.commons.cli.help.TextHelpAppendable;
import org.apache.commons.cli.help.TextStyle;
import weftex.cli.command.CommandName;
import weftex.cli.command.Roof;
import weftex.cli.session.OwnKeys;
import weftex.cli.workplace.Command;

/** What {@code --help} prints. */
final class Help {
  private static final int OPTION_WIDTH = 30;

  private static final int MARGIN = 2;

  /** Longer lines are hard to read, whatever the terminal's width. */
  private static final int WIDEST = 100;

  private Help() {}

  static Options withCommonOptions(Command command) {
    Options options = new Options();
    command.options().getOptions().forEach(options::addOption);
    options.addOption(
        Option.builder()
            .longOpt("config")
            .hasArg()
            .argName("FILE")
            .desc("the pair's file (default: weftex.yaml)")
            .get());
    options.addOption(Roof.option());
    options.addOption(OwnKeys.option());
    options.addOption(Option.builder().longOpt("json").desc("print the result as JSON").get());
    options.addOption(Option.builder().longOpt("no-color").desc("print without colours").get());
    options.addOption(
        Option.builder().longOpt("debug").desc("on a failure, print a stack trace").get());
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

  /**
   * @param width columns of the terminal; no line is longer than {@value #WIDEST}
   */
  static String of(CommandName name, Command command, int width) {
    StringBuilder text = new StringBuilder();
    text.append("usage: weftex ")
        .append(name.word())
        .append(' ')
        .append(command.arguments())
        .append("\n\n");
    text.append(name.summary()).append(".\n");
    TextHelpAppendable page = new TextHelpAppendable(text);
    page.setMaxWidth(Math.min(width, WIDEST) - MARGIN);
    try {
      for (Map.Entry<String, List<Option>> group : groups(command).entrySet()) {
        text.append('\n').append(group.getKey()).append(":\n");
        for (Option option : group.getValue()) {
          appendOption(page, option);
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    text.append("\nexamples:\n");
    command.examples().forEach(example -> appendExample(text, example, page.getMaxWidth()));
    return text.toString();
  }

  /** A command line, continued on the next line as a shell takes it. */
  private static void appendExample(StringBuilder text, String example, int width) {
    int used = 0;
    for (String word : example.split(" (?=-)")) {
      if (used > 0 && used + word.length() + 1 > width - MARGIN) {
        text.append(" \\\n     ");
        used = 3;
      }
      text.append(used == 0 ? "  " : " ").append(word);
      used += word.length() + 1;
    }
    text.append('\n');
  }

  /** The options under their headings, in the order of printing. */
  private static Map<String, List<Option>> groups(Command command) {
    Map<String, List<Option>> groups = new LinkedHashMap<>();
    groups.put("options", new ArrayList<>());
    Options own = command.options();
    Map<String, List<String>> headings = command.headings();
    headings.forEach(
        (heading, names) ->
            groups.put(
                heading, names.stream().filter(own::hasLongOption).map(own::getOption).toList()));
    groups.put("with every command", new ArrayList<>());
    for (Option option : withCommonOptions(command).getOptions()) {
      if (headings.values().stream().noneMatch(names -> names.contains(option.getLongOpt()))) {
        groups
            .get(own.hasLongOption(option.getLongOpt()) ? "options" : "with every command")
            .add(option);
      }
    }
    groups.values().removeIf(List::isEmpty);
    return groups;
  }

  private static void appendOption(TextHelpAppendable page, Option option) throws IOException {
    String words =
        (option.getOpt() == null ? "    " : "-" + option.getOpt() + ", ")
            + "--"
            + option.getLongOpt()
            + (option.hasArg() ? " " + option.getArgName() : "");
    TextStyle.Builder style = TextStyle.builder().setMaxWidth(page.getMaxWidth());
    if (words.length() >= OPTION_WIDTH) {
      page.printWrapped(words, style.setLeftPad(MARGIN).get());
      page.printWrapped(option.getDescription(), style.setLeftPad(MARGIN + OPTION_WIDTH).get());
    } else {
      String line = words + " ".repeat(OPTION_WIDTH - words.length()) + option.getDescription();
      page.printWrapped(line, style.setLeftPad(MARGIN).setIndent(OPTION_WIDTH).get());
    }
  }
}
