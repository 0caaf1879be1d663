package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.ModelFiles;
import weftex.cli.config.Pair;
import weftex.cli.config.PairReader;
import weftex.cli.config.PairWriter;
import weftex.cli.render.BriefText;
import weftex.cli.result.BriefReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.core.model.SiteModel;
import weftex.core.yaml.YamlProblem;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;

/** Writes weftex.yaml. */
final class PairCommand implements Command {

  @Override
  public Options options() {
    Options options = new Options();
    add(options, "site", "NAME", "a name for the site");
    add(
        options,
        "model",
        "MODEL",
        "plain, wordpress, wordpress-extensions, or the path of a model file");
    for (String copy : List.of("staging", "live")) {
      add(
          options,
          copy,
          "PLACE",
          "where "
              + copy
              + " is: sqlite:FILE, mariadb://USER@HOST:PORT/DATABASE, or its CMS's PHP config file");
      add(options, copy + "-config", "FILE", "the same: its CMS's PHP config file");
      add(options, copy + "-prefix", "PREFIX", "what its table names begin with");
      add(options, copy + "-address", "URL", "the base address by which " + copy + " knows itself");
      add(options, copy + "-folder", "PATH", "the folder of " + copy + "'s files on its server");
      add(
          options,
          copy + "-password",
          "SOURCE",
          "where its password is: variable:NAME or file:FILE");
      add(
          options,
          copy + "-ssh",
          "HOST",
          "the machine over which its server is reached, as your own ssh knows it: an alias or USER@HOST");
    }
    options.addOption(Option.builder().longOpt("overwrite").desc("replace an existing file").get());
    return options;
  }

  private static void add(Options options, String name, String argument, String description) {
    options.addOption(
        Option.builder().longOpt(name).hasArg().argName(argument).desc(description).get());
  }

  @Override
  public Map<String, List<String>> headings() {
    Map<String, List<String>> headings = new LinkedHashMap<>();
    for (String copy : List.of("staging", "live")) {
      headings.put(
          copy,
          List.of(
              copy,
              copy + "-config",
              copy + "-prefix",
              copy + "-address",
              copy + "-folder",
              copy + "-password",
              copy + "-ssh"));
    }
    return headings;
  }

  @Override
  public String arguments() {
    return "--site NAME --staging PLACE --live PLACE [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex pair --site skerrow --model wordpress --staging-config staging/wp-config.php --live-config live/wp-config.php",
        "weftex pair --site skerrow --staging sqlite:staging.db --live mariadb://weftex@db.skerrow.example/skerrow"
            + " --live-password variable:SKERROW_PASSWORD --live-prefix skf_ --staging-prefix skf_");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Path file = Workplace.file(line, session);
    if (Files.exists(file) && !line.hasOption("overwrite")) {
      throw refusal(file + " is there already.", "Edit it, or replace it with --overwrite.");
    }
    Questions questions = new Questions(line, session);
    String site = questions.ask("site", "Name of the site", "site");
    String model =
        questions.ask(
            "model",
            "Site model (plain, wordpress or a file)",
            "plain",
            said -> existing(said, session));
    PairedCopy stagingSaid = PairedCopy.ask("staging", questions, line, session);
    PairedCopy liveSaid = PairedCopy.ask("live", questions, line, session);
    Pair pair = read(file, site, model, stagingSaid.entry(), liveSaid.entry(), session);
    PairWriter.Entry staging = stagingSaid.known(pair.staging(), pair.model(), questions);
    PairWriter.Entry live = liveSaid.known(pair.live(), pair.model(), questions);
    pair = read(file, site, model, staging, live, session);
    stagingSaid.notes().forEach(note -> session.err().println("weftex: staging: " + note));
    liveSaid.notes().forEach(note -> session.err().println("weftex: live: " + note));
    if (questions.asked()) {
      session.err().println(shown(pair.staging(), staging) + shown(pair.live(), live));
    }
    if (!questions.confirm("Write this to " + file.getFileName())) {
      throw refusal("It was not confirmed, so no file was written.", "Run 'weftex pair' again.");
    }
    Files.writeString(file, PairWriter.write(site, model, staging, live));
    Map<String, String> addresses = new TreeMap<>();
    staging.address().ifPresent(address -> addresses.put("staging", address));
    live.address().ifPresent(address -> addresses.put("live", address));
    BriefReport.Paired paired =
        new BriefReport.Paired(
            file.toString(), site, pair.staging().place(), pair.live().place(), addresses);
    return new Result(ExitStatus.DONE, paired, page -> BriefText.print(page, paired));
  }

  /** A copy before it is written, for who answers. */
  private static String shown(CopySpec spec, PairWriter.Entry entry) {
    return "%n%s%n  where    %s%n  address  %s%n  folder   %s%n"
        .formatted(
            spec.name(),
            spec.place(),
            entry.address().orElse("(none)"),
            entry.folder().orElse("(none)"));
  }

  private static String existing(String model, Session session) throws Refusal, IOException {
    boolean found;
    try {
      found = ModelFiles.find(session.folder(), model).isPresent();
    } catch (YamlProblem e) {
      throw refusal("Site model " + model + ": " + e.sentence() + ".", "Correct the file.");
    }
    if (!found) {
      throw refusal(
          "There is no site model '" + model + "', neither built in nor as a file.",
          "Built in are plain, " + String.join(", ", SiteModel.builtIn()) + ".");
    }
    return model;
  }

  /** Reads what would be written, so that no file is left that can't be read. */
  private static Pair read(
      Path file,
      String site,
      String model,
      PairWriter.Entry staging,
      PairWriter.Entry live,
      Session session)
      throws Refusal {
    return PairReader.read(
        file, PairWriter.write(site, model, staging, live), session.environment());
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", next);
  }
}
