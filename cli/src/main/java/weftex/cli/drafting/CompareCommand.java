package weftex.cli.drafting;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.SelectionWords;
import weftex.cli.render.CompareText;
import weftex.cli.result.CompareReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Numbers;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Workplace;
import weftex.core.select.Selection;
import weftex.store.Refusal;

/** Shows what changed on either copy since the base. */
public final class CompareCommand implements Command {

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("table")
            .hasArg()
            .argName("NAME")
            .desc("list the changed rows of this table with old and new values")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("limit")
            .hasArg()
            .argName("N")
            .desc("with --table: list at most this many rows (default: 200)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("items")
            .hasArg()
            .argName("N")
            .desc("list at most this many pages, settings and other things (default: 40)")
            .get());
    SelectionOptions.addTo(options);
    options.addOption(Workplace.into());
    options.addOption(Workplace.twoWay());
    options.addOption(Workplace.thorough());
    return options;
  }

  @Override
  public Map<String, List<String>> headings() {
    return SelectionOptions.heading();
  }

  @Override
  public String arguments() {
    return "[--table NAME] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex compare",
        "weftex compare --table pages",
        "weftex compare --path '/harbours/*' --since 3d",
        "weftex compare --into staging --without 'booking*' --json");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    int limit = Numbers.positive(line, "limit", "200", "compare");
    Workplace place = Workplace.open(line, session);
    SelectionWords words = place.selection(line);
    Selection selection = words.selection(session.clock().instant());
    String table = line.getOptionValue("table");
    if (table != null) {
      selection = selection.of(table);
    }
    CompareRun run = new CompareRun(place, line, words, selection, limit);
    CompareReport compared = run.report();
    boolean toDecide =
        compared.files().conflicts() > 0
            || compared.tables().stream().anyMatch(t -> t.conflicts() > 0);
    return new Result(
        toDecide ? ExitStatus.TO_DECIDE : ExitStatus.DONE,
        compared,
        page -> {
          if (table == null) {
            CompareText.printTables(page, compared);
          } else {
            CompareText.printRows(page, compared, table, run.schema(), run.rows());
          }
        });
  }
}
