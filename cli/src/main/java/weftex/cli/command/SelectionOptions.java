package weftex.cli.command;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.core.plan.Selection;
import weftex.store.Refusal;

/** The options that choose tables and rows. */
final class SelectionOptions {
  private SelectionOptions() {}

  static void addTo(Options options) {
    options.addOption(
        tables("only these tables, with * and ?; live's own and noise by their exact name"));
    options.addOption(
        Option.builder()
            .longOpt("without")
            .hasArgs()
            .valueSeparator(',')
            .argName("PATTERNS")
            .desc("leave these tables out")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("with")
            .hasArgs()
            .valueSeparator(',')
            .argName("WHAT")
            .desc(
                "bring what stays out by itself, by its table or by what it is: comments, account, noise;"
                    + " users.user_pass brings a secret column; may be repeated")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("item")
            .hasArg()
            .argName("THING")
            .desc(
                "only some things and all that belongs to them: 'page:Winter*', setting:tagline, 'menu entry'; may be"
                    + " repeated")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("rows")
            .hasArg()
            .argName("ROWS")
            .desc(
                "only some rows: pages:4, pages:4-9,12 or pages.status=published; may be repeated")
            .get());
  }

  static Selection read(CommandLine line) throws Refusal {
    List<Selection.RowFilter> rows = new ArrayList<>();
    for (String text : values(line, "rows")) {
      try {
        rows.addAll(Selection.RowFilter.parse(text));
      } catch (IllegalArgumentException e) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            e.getMessage() + ". Nothing was changed.",
            "See 'weftex draft --help'.");
      }
    }
    return new Selection(
        values(line, "tables"),
        values(line, "without"),
        values(line, "with"),
        rows,
        values(line, "item").stream().map(Selection.ItemFilter::parse).toList());
  }

  static Option tables(String description) {
    return Option.builder()
        .longOpt("tables")
        .hasArgs()
        .valueSeparator(',')
        .argName("PATTERNS")
        .desc(description)
        .get();
  }

  static List<String> values(CommandLine line, String option) {
    String[] values = line.getOptionValues(option);
    return values == null ? List.of() : Arrays.stream(values).map(String::strip).toList();
  }
}
