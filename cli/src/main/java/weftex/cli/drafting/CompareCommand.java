package weftex.cli.drafting;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.SelectionWords;
import weftex.cli.render.CompareText;
import weftex.cli.result.CompareReport;
import weftex.cli.result.FilesReport;
import weftex.cli.result.ItemReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.Numbers;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Workplace;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.JsonLines;
import weftex.core.file.FilePlan;
import weftex.core.plan.Plan;
import weftex.core.plan.Planner;
import weftex.core.select.Selection;
import weftex.store.Refusal;
import weftex.store.compare.ComparisonRun;
import weftex.store.compare.FileDrafting;

/** Shows what changed on either copy since the base. */
public final class CompareCommand implements Command {
  private static final String ITEMS_UNLESS_SAID = "40";

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
    Found found = new Found();
    Map<String, String> renames = new TreeMap<>();
    while (!find(found, renames, limit, line, place, words, selection)) {
      found = new Found();
    }
    CompareReport compared = found.report;
    List<SchemaChange> schema = found.schema;
    List<RowChange> rows = found.rows;
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
            CompareText.printRows(page, compared, table, schema, rows);
          }
        });
  }

  /** What was found; single rows only of a table that is asked for. */
  private static final class Found {
    private final List<SchemaChange> schema = new ArrayList<>();
    private final List<RowChange> rows = new ArrayList<>();
    private CompareReport report;
  }

  /**
   * Compares, unless files turn out to need another name.
   *
   * @param renames takes their names
   * @param limit how many rows of a table are listed
   * @return whether it is done
   */
  private static boolean find(
      Found found,
      Map<String, String> renames,
      int limit,
      CommandLine line,
      Workplace place,
      SelectionWords words,
      Selection selection)
      throws Refusal, IOException {
    String table = line.getOptionValue("table");
    try (ComparisonRun run =
        new Comparing(place, line).run(selection, words.asksAgain(), renames)) {
      Planner planner = run.planner(words.apart(), words.same());
      NothingMeant.check(run, planner);
      Plan plan = planner.choose(selection);
      List<JsonNode> json = new ArrayList<>();
      ItemReport.Gatherer things =
          new ItemReport.Gatherer(Numbers.positive(line, "items", ITEMS_UNLESS_SAID, "compare"));
      boolean wantsJson = line.hasOption("json");
      for (SchemaChange change : plan.schema()) {
        things.add(change);
        if (table != null && wantsJson) {
          json.add(JsonLines.parse(ChangeSetWriter.line(change)));
        } else if (table != null) {
          found.schema.add(change);
        }
      }
      plan.forEach(
          change -> {
            if (!change.offered()) {
              things.add(change.outline());
            }
            if (table == null || json.size() + found.rows.size() >= limit) {
              return;
            }
            if (wantsJson) {
              json.add(JsonLines.parse(ChangeSetWriter.line(change)));
            } else {
              found.rows.add(CompareText.withoutLongValues(change));
            }
          });
      NothingMeant.check(run, plan, selection);
      FilePlan.Files along =
          FileDrafting.of(run, plan, selection, words.files(place.pair().files()));
      if (!along.renames().isEmpty()) {
        // Whatever names them has to follow, so all is compared once more.
        Folders.takeNames(along.renames(), renames);
        return false;
      }
      along.changes().forEach(change -> things.add(change.outline()));
      FilesReport files = FilesReport.of(along, run.folders().problem());
      found.report =
          CompareFindings.compared(
              run, plan, selection, things, files, json, Math.max(0, plan.size() - limit));
    }
    return true;
  }
}
