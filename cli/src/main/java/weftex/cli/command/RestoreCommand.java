package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.render.Progress;
import weftex.cli.render.SaveText;
import weftex.cli.render.Times;
import weftex.cli.result.RestoreReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.store.Refusal;
import weftex.store.copy.Claim;
import weftex.store.copy.Copy;
import weftex.store.copy.CopySpec;
import weftex.store.dump.RestorePoints;
import weftex.store.dump.Restorer;
import weftex.store.dump.Restoring;
import weftex.store.dump.SavedCopy;

/** Puts a saved copy in the place of the present one. */
final class RestoreCommand implements Command {
  private static final String BACK = "back";
  private static final String REMOVE = "remove-aside";

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("yes")
            .hasArg()
            .argName("SITE")
            .desc("the name of the site: do it without a question")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(BACK)
            .desc("return to the tables that the last restore set aside")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(REMOVE)
            .desc("remove the tables that the last restore set aside")
            .get());
    return options;
  }

  @Override
  public String arguments() {
    return "[COPY] [FILE] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex restore live",
        "weftex restore live before-the-merge.sql.gz --yes skerrow",
        "weftex restore live --back --yes skerrow");
  }

  @Override
  public boolean isForOneSite(CommandLine line, Session session) {
    return true;
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    List<String> said = line.getArgList();
    if (said.isEmpty() || said.size() > 2) {
      throw wrong(
          said.isEmpty()
              ? "No copy is named, live or staging."
              : "'" + said.get(2) + "' is one argument too many.");
    }
    boolean aside = line.hasOption(BACK) || line.hasOption(REMOVE);
    if (aside && said.size() == 2 || line.hasOption(BACK) && line.hasOption(REMOVE)) {
      throw wrong("--back and --remove-aside read no file, and exclude each other.");
    }
    CopySpec spec = MergedFile.database(place, said.get(0));
    Copy copy = Copy.reach(spec);
    Claim claim = copy.claim();
    try {
      return aside
          ? aside(line, session, place, spec)
          : restored(line, session, place, spec, file(said, session, place, spec));
    } finally {
      claim.close();
    }
  }

  private static Refusal wrong(String what) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", "Run 'weftex restore --help'.");
  }

  /** The file that is named, or the newest restore point of the copy. */
  private static Path file(List<String> said, Session session, Workplace place, CopySpec spec)
      throws Refusal, IOException {
    if (said.size() == 2) {
      return session.folder().resolve(said.get(1));
    }
    return place.restorePoints().all().stream()
        .filter(point -> point.copy().equals(spec.name()))
        .map(RestorePoints.Point::file)
        .findFirst()
        .orElseThrow(
            () ->
                new Refusal(
                    Refusal.Kind.WRONG_INPUT,
                    "There is no restore point of " + spec.name() + ". Nothing was changed.",
                    "Name a file that 'weftex save' wrote."));
  }

  private static Result aside(CommandLine line, Session session, Workplace place, CopySpec spec)
      throws Refusal, IOException {
    boolean back = line.hasOption(BACK);
    try (Restorer restorer = Restorer.of(spec)) {
      if (!restorer.hasAside()) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "Nothing of " + spec.name() + " is set aside. Nothing was changed.",
            "'weftex history' lists the restore points.");
      }
      place.say(
          back
              ? spec.name()
                  + " ("
                  + spec.place()
                  + ") becomes what it was before the last restore; what came to it since then goes."
              : "What is set aside of "
                  + spec.name()
                  + " ("
                  + spec.place()
                  + ") is removed for good.");
      confirm(line, session, place, spec);
      if (back) {
        restorer.back();
      } else {
        restorer.dropAside();
      }
    }
    RestoreReport report =
        new RestoreReport(back ? "back" : "removed", spec.name(), "", "", 0, 0, Map.of());
    return new Result(ExitStatus.DONE, report, page -> SaveText.print(page, report));
  }

  private static Result restored(
      CommandLine line, Session session, Workplace place, CopySpec spec, Path file)
      throws Refusal, IOException {
    SavedCopy saved = SavedCopy.open(file);
    checkOwn(saved, place, spec);
    RestoreReport report;
    try (Progress progress = Progress.start(session, "loading " + place.shown(file), -1);
        Restorer restorer = Restorer.load(spec, saved, progress)) {
      Map<String, Restoring.Since> since = restorer.since();
      place.say(
          spec.name()
              + " ("
              + spec.place()
              + ") becomes what it was on "
              + Times.shown(saved.taken())
              + ": "
              + restorer.tables()
              + " tables, "
              + restorer.rows()
              + " rows.");
      place.say("It comes from " + place.shown(file) + ".");
      place.say(
          since.isEmpty()
              ? "No row was added or edited there since."
              : "What was added or edited there since goes: " + SaveText.since(since) + ".");
      confirm(line, session, place, spec);
      restorer.switchOver();
      report =
          new RestoreReport(
              "restored",
              spec.name(),
              place.shown(file),
              saved.taken(),
              restorer.tables(),
              restorer.rows(),
              since);
    }
    return new Result(ExitStatus.DONE, report, page -> SaveText.print(page, report));
  }

  private static void checkOwn(SavedCopy saved, Workplace place, CopySpec spec) throws Refusal {
    boolean site = saved.site().equals(place.pair().site());
    if (!site || !saved.copy().equals(spec.name())) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(saved.file())
              + " is "
              + saved.copy()
              + " of the site '"
              + saved.site()
              + "', and what would be replaced is "
              + spec.name()
              + " of '"
              + place.pair().site()
              + "'. Nothing was changed.",
          site
              ? "Name a file of " + spec.name() + "; 'weftex history' lists the restore points."
              : "Name a file of this site.");
    }
  }

  /** Whoever replaces a whole copy says its site's name, which nobody types by accident. */
  private static void confirm(CommandLine line, Session session, Workplace place, CopySpec spec)
      throws Refusal, IOException {
    String site = place.pair().site();
    String answer = line.getOptionValue("yes", "");
    if (answer.isEmpty() && session.terminal().in() && !line.hasOption("json")) {
      session.err().print("Type the name of the site to go on: ");
      session.err().flush();
      String typed = session.in().readLine();
      answer = typed == null ? "" : typed.strip();
    }
    if (!answer.equals(site)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          (answer.isEmpty()
                  ? "Nobody confirmed it."
                  : "'" + answer + "' is not the name of the site.")
              + " Nothing was changed on "
              + spec.name()
              + ".",
          "Say --yes " + site + ".");
    }
  }
}
