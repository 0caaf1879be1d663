package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import weftex.cli.config.ModelFiles;
import weftex.cli.render.BriefText;
import weftex.cli.result.BriefReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.workplace.Result;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.core.row.Table;
import weftex.core.yaml.Nearest;
import weftex.core.yaml.YamlProblem;
import weftex.store.Refusal;
import weftex.store.copy.Copy;

/** Whether what a model names is there on the copies. */
final class ModelValidation {

  private ModelValidation() {}

  static Result validated(Path file, Copy copy) throws Refusal, IOException {
    if (!Files.isRegularFile(file)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "There is no " + file + ". Nothing was changed.",
          "Name a model file.");
    }
    SiteModel model;
    try {
      model = ModelFiles.read(file);
    } catch (YamlProblem e) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          file.getFileName() + ": " + e.sentence() + ". Nothing was changed.",
          "docs/site-models.md describes the format.");
    }
    List<String> missing = missing(model, copy);
    BriefReport.Checked checked =
        new BriefReport.Checked(
            file.getFileName().toString(),
            model.model(),
            model.tables().size(),
            missing,
            copy.name());
    return new Result(
        missing.isEmpty() ? ExitStatus.DONE : ExitStatus.TO_DECIDE,
        checked,
        page -> BriefText.print(page, checked));
  }

  /** Tables and columns that a model names and a copy does not have. */
  static List<String> missing(SiteModel model, Copy copy) {
    List<String> missing = new ArrayList<>();
    for (String name : new TreeSet<>(model.tables().keySet())) {
      var table = copy.catalog().find(name);
      if (table.isEmpty()) {
        missing.add(
            "table "
                + name
                + Nearest.to(name, copy.catalog().tables().keySet())
                    .map(near -> " (" + copy.name() + " has " + near + ")")
                    .orElse(""));
        continue;
      }
      Table shape = table.get().table();
      List<String> columns = shape.columns().stream().map(column -> column.name()).toList();
      for (String column : columns(model.rule(name))) {
        if (!columns.contains(column)) {
          missing.add(
              name
                  + "."
                  + column
                  + Nearest.to(column, columns)
                      .map(near -> " (" + copy.name() + " has " + near + ")")
                      .orElse(""));
        }
      }
    }
    return missing;
  }

  static TreeSet<String> columns(TableRule rule) {
    TreeSet<String> columns = new TreeSet<>(rule.references().keySet());
    columns.addAll(rule.identity().columns());
    columns.addAll(rule.contents().inside().keySet());
    columns.addAll(rule.ownership().stays().keySet());
    columns.addAll(rule.handling().permanent());
    columns.addAll(rule.handling().columns().keySet());
    columns.addAll(rule.after().counters().keySet());
    columns.addAll(rule.ownership().secret());
    if (!rule.number().isEmpty()) {
      columns.add(rule.number());
    }
    if (!rule.part().of().isEmpty()) {
      columns.add(rule.part().of());
    }
    return columns;
  }
}
