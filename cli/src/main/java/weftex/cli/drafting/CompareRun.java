package weftex.cli.drafting;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.apache.commons.cli.CommandLine;
import weftex.cli.config.SelectionWords;
import weftex.cli.page.Times;
import weftex.cli.render.CompareText;
import weftex.cli.result.CompareReport;
import weftex.cli.result.FilesReport;
import weftex.cli.result.InsideReport;
import weftex.cli.result.ItemReport;
import weftex.cli.result.RolesReport;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.Numbers;
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

/** Compares as a command line asks for it, and lists single rows of a table that is asked for. */
final class CompareRun {
  static final String ITEMS_UNLESS_SAID = "40";

  private final Workplace place;
  private final CommandLine line;
  private final SelectionWords words;
  private final Selection selection;
  private final int limit;
  private final boolean listsRows;
  private final boolean wantsJson;
  private final Map<String, String> renames = new TreeMap<>();
  private final List<SchemaChange> schema = new ArrayList<>();
  private final List<RowChange> rows = new ArrayList<>();
  private final List<JsonNode> json = new ArrayList<>();

  /**
   * Of a pair.
   *
   * @param limit how many rows of a table are listed
   */
  CompareRun(
      Workplace place, CommandLine line, SelectionWords words, Selection selection, int limit) {
    this.place = place;
    this.line = line;
    this.words = words;
    this.selection = selection;
    this.limit = limit;
    this.listsRows = line.hasOption("table");
    this.wantsJson = line.hasOption("json");
  }

  /** Compares, once more where files turn out to need another name. */
  CompareReport report() throws Refusal, IOException {
    Optional<CompareReport> found = look();
    while (found.isEmpty()) {
      schema.clear();
      rows.clear();
      json.clear();
      found = look();
    }
    return found.get();
  }

  /** What is to be made first, of the table that is asked for. */
  List<SchemaChange> schema() {
    return schema;
  }

  /** The rows of the table that is asked for, without long values. */
  List<RowChange> rows() {
    return rows;
  }

  private Optional<CompareReport> look() throws Refusal, IOException {
    try (ComparisonRun run =
        new Comparing(place, line).run(selection, words.asksAgain(), renames)) {
      Planner planner = run.planner(words.apart(), words.same());
      NothingMeant.check(run, planner);
      Plan plan = planner.choose(selection);
      ItemReport.Gatherer things =
          new ItemReport.Gatherer(Numbers.positive(line, "items", ITEMS_UNLESS_SAID, "compare"));
      for (SchemaChange change : plan.schema()) {
        things.add(change);
        list(change);
      }
      plan.forEach(
          change -> {
            if (!change.offered()) {
              things.add(change.outline());
            }
            list(change);
          });
      NothingMeant.check(run, plan, selection);
      FilePlan.Files along =
          FileDrafting.of(run, plan, selection, words.files(place.pair().files()));
      if (!along.renames().isEmpty()) {
        // Whatever names them has to follow, so all is compared once more.
        Folders.takeNames(along.renames(), renames);
        return Optional.empty();
      }
      along.changes().forEach(change -> things.add(change.outline()));
      return Optional.of(report(run, plan, things, FilesReport.of(along, run.folders().problem())));
    }
  }

  private void list(SchemaChange change) throws IOException {
    if (listsRows && wantsJson) {
      json.add(JsonLines.parse(ChangeSetWriter.line(change)));
    } else if (listsRows) {
      schema.add(change);
    }
  }

  private void list(RowChange change) throws IOException {
    if (!listsRows || json.size() + rows.size() >= limit) {
      return;
    }
    if (wantsJson) {
      json.add(JsonLines.parse(ChangeSetWriter.line(change)));
    } else {
      rows.add(CompareText.withoutLongValues(change));
    }
  }

  private CompareReport report(
      ComparisonRun run, Plan plan, ItemReport.Gatherer things, FilesReport files)
      throws IOException {
    return new CompareReport(
        new CompareReport.Copies(
            run.source().name(), run.target().name(), run.base().map(Times::base)),
        CompareFindings.tables(run, plan, selection),
        CompareFindings.notCompared(run),
        new CompareReport.Things(things.items(), things.beyond()),
        files,
        InsideReport.of(run, plan),
        RolesReport.of(run, plan),
        new CompareReport.Listed(json, Math.max(0, plan.size() - limit)));
  }
}
