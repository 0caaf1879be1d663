package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.ModelFiles;
import weftex.cli.render.BriefText;
import weftex.cli.render.MeaningText;
import weftex.cli.result.BriefReport;
import weftex.cli.result.ModelReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Workplace;
import weftex.core.derive.DerivedTable;
import weftex.core.derive.ModelDeriver;
import weftex.core.derive.ModelText;
import weftex.core.model.SiteModel;
import weftex.core.row.Glob;
import weftex.core.row.Table;
import weftex.core.site.SiteMap;
import weftex.core.yaml.YamlProblem;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.CopyEvidence;

/** Shows the site model in force, guesses one for tables that none names, or checks a file. */
final class ModelCommand implements Command {

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("guess")
            .desc(
                "guess a model for the tables that the one in force does not name, with the evidence")
            .get());
    options.addOption(SelectionOptions.tables("only these tables, with * and ?"));
    options.addOption(
        Option.builder("o")
            .longOpt("out")
            .hasArg()
            .argName("FILE")
            .desc("with --guess: a new file to write it into")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("validate")
            .hasArg()
            .argName("FILE")
            .desc("check a model file against the copy's tables")
            .get());
    return options;
  }

  @Override
  public String arguments() {
    return "[COPY] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex model",
        "weftex model staging --guess --tables 'shop_*' -o shop.model.yaml",
        "weftex model --validate shop.model.yaml");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    Copy copy = Copy.reach(place.pair().copy(place.copyName(line)));
    List<String> patterns = SelectionOptions.values(line, "tables");
    if (line.hasOption("validate")) {
      return ModelValidation.validated(
          session.folder().resolve(line.getOptionValue("validate")), copy);
    }
    List<Table> tables =
        copy.catalog().all().stream()
            .map(table -> table.table())
            .filter(
                table ->
                    patterns.isEmpty()
                        || patterns.stream().anyMatch(p -> Glob.matches(p, table.name())))
            .toList();
    if (tables.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "No table of "
              + copy.name()
              + " matches '"
              + String.join(",", patterns)
              + "'. Nothing was written.",
          "Name tables without the prefix; 'weftex check' lists them.");
    }
    return line.hasOption("guess")
        ? guessed(line, session, place, copy, tables)
        : shown(place, place.siteMap(copy), tables);
  }

  private static Result shown(Workplace place, SiteMap site, List<Table> tables)
      throws IOException {
    SiteModel model = place.pair().model();
    Optional<SiteModel> parent;
    try {
      parent = ModelFiles.parent(model, place.pair().folder());
    } catch (YamlProblem e) {
      throw new IOException("the model was changed while it was read", e);
    }
    ModelReport whole = ModelReport.of(model, parent, site);
    List<String> wanted = tables.stream().map(Table::name).toList();
    ModelReport report =
        new ModelReport(
            whole.model(),
            whole.parent(),
            whole.tables().stream().filter(t -> wanted.contains(t.name())).toList());
    return new Result(ExitStatus.DONE, report, page -> MeaningText.print(page, report));
  }

  private static Result guessed(
      CommandLine line, Session session, Workplace place, Copy copy, List<Table> tables)
      throws Refusal, IOException {
    SiteModel model = place.pair().model();
    boolean asked = line.hasOption("tables");
    List<Table> known = copy.catalog().all().stream().map(t -> t.table()).toList();
    List<DerivedTable> derived = new ArrayList<>();
    try (CopyEvidence evidence = copy.evidence()) {
      ModelDeriver deriver = new ModelDeriver(known, model, evidence);
      for (Table table : tables) {
        boolean isKnown = model.describes(table.name());
        DerivedTable guess =
            asked || !isKnown ? deriver.derive(table) : deriver.deriveInside(table);
        if (!isKnown || !guess.rules().isEmpty()) {
          derived.add(guess);
        }
      }
    }
    String parent = SiteModel.builtIn().contains(model.model()) ? model.model() : model.parent();
    String text = ModelText.write(place.pair().site(), parent, derived);
    String file = line.getOptionValue("out", "");
    if (!file.isEmpty()) {
      Path path = session.folder().resolve(file);
      if (Files.exists(path)) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            "There is a file " + file + " already. It was not touched.",
            "Name another one, or move it away.");
      }
      Files.writeString(path, text);
    }
    BriefReport.Guessed guessed = new BriefReport.Guessed(file, derived, text);
    return new Result(ExitStatus.DONE, guessed, page -> BriefText.print(page, guessed));
  }
}
