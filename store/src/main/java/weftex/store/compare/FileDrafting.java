package weftex.store.compare;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.Trace;
import weftex.core.file.FileChoice;
import weftex.core.file.FileContent;
import weftex.core.file.FilePlan;
import weftex.core.file.FileRows;
import weftex.core.file.NamedFiles;
import weftex.core.model.Role;
import weftex.core.plan.Plan;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.select.Selection;
import weftex.core.site.TableModel;
import weftex.store.file.CopyFiles;
import weftex.store.file.FileRecord;
import weftex.store.file.NamingRows;
import weftex.store.file.PairFiles;
import weftex.store.file.PairFolders;

/** Finds the files that go with a plan. */
public final class FileDrafting {
  /** Rows that may name a file and are looked at. */
  private static final int ROWS = 50;

  private final ComparisonRun run;
  private final NamedFiles names;
  private final PairFiles files;

  private FileDrafting(ComparisonRun run, NamedFiles names, PairFiles files) {
    this.run = run;
    this.names = names;
    this.files = files;
  }

  /**
   * The files that go with a plan; none if the folders can't be looked into.
   *
   * @param plan of that run
   * @param selection by which it was chosen
   */
  public static FilePlan.Files of(
      ComparisonRun run, Plan plan, Selection selection, FileChoice choice) throws IOException {
    PairFolders folders = run.folders();
    if (!folders.areOpen() || choice.none()) {
      return FilePlan.Files.NONE;
    }
    NamedFiles names = new NamedFiles(run.site(), run.hosts());
    List<Table> tables =
        run.tables().comparedLayouts().stream().map(layout -> layout.table()).toList();
    PairFiles files =
        new PairFiles(
            new PairFiles.Side(run.source().name(), folders.of(run.source().name())),
            new PairFiles.Side(run.target().name(), folders.of(run.target().name())),
            run.base().isPresent() ? run.base().get().files() : FileRecord.NONE,
            run.fileNames(),
            new NamingRows(run.targetState(), tables, run.site(), names));
    settle(run, files);
    return new FileDrafting(run, names, files).plan(plan, selection, choice);
  }

  /** What was merged since, in the order of merges. */
  private static void settle(ComparisonRun run, PairFiles files) throws IOException {
    for (FileSteps.Step step : new FileSteps(run.merged()).all()) {
      boolean into = step.intoTarget();
      Optional<FileContent> content =
          step.settled().action() == Action.REMOVE
              ? Optional.empty()
              : FileRows.content(step.settled().values());
      files.settle(
          into ? step.path() : run.fileNames().onTarget(step.path()),
          content,
          step.settled().kept(),
          (into ? run.source() : run.target()).name());
    }
  }

  private FilePlan.Files plan(Plan plan, Selection selection, FileChoice choice)
      throws IOException {
    FilePlan made = new FilePlan(run.site(), names, files, choice);
    plan.forEach(made::see);
    for (String path : files.movedOnSource()) {
      if (!made.isSeen(path)) {
        Optional<Item> owner = owner(plan, path);
        if (owner.isPresent() && selection.things().accepts(owner, Trace.NONE)
            || choice.asksFor(path)) {
          made.seeAlone(path, owner);
        }
      }
    }
    for (String folder : choice.folders()) {
      askedFor(folder, choice, made);
    }
    return made.files(plan.schema().size() + plan.size() + 1);
  }

  /** Files that are asked for by name, whether rows name them or not. */
  private void askedFor(String folder, FileChoice choice, FilePlan made) throws IOException {
    CopyFiles there = run.folders().of(run.source().name());
    there.walk(
        folder,
        path -> {
          String onTarget = run.fileNames().onTarget(path);
          if (choice.asksFor(path) && !made.isSeen(onTarget)) {
            made.seeAlone(onTarget, Optional.empty());
          }
        });
    for (String path : files.goneOnSource()) {
      if (choice.asksFor(path) && !made.isSeen(path)) {
        made.seeAlone(path, Optional.empty());
      }
    }
  }

  /** The thing that a file belongs to by a row of the source's content. */
  private Optional<Item> owner(Plan plan, String path) throws IOException {
    String there = files.sourcePath(path);
    String name = there.substring(there.lastIndexOf('/') + 1);
    for (TableModel model : run.comparison().tables()) {
      if (model.contents().files().isEmpty()) {
        continue;
      }
      Table table = model.table();
      List<Integer> columns =
          model.contents().files().stream().map(rule -> rule.column()).distinct().toList();
      for (Row row : run.sourceState().mentioning(table, columns, name, ROWS)) {
        List<Value> values = row.values();
        if (model.ownership().role(values) == Role.CONTENT
            && names.ownOf(model, values).contains(there)) {
          return plan.item(model, values);
        }
      }
    }
    return Optional.empty();
  }
}
