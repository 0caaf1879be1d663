package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Files;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.page.Progress;
import weftex.cli.page.Times;
import weftex.cli.render.RestoreText;
import weftex.cli.result.RestoreReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.session.Took;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.MaskedPeople;
import weftex.cli.workplace.Remade;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.copy.Claim;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.dump.NewDatabase;
import weftex.store.dump.Restorer;
import weftex.store.dump.Restoring;
import weftex.store.state.FileClaim;

/** Puts a saved copy in the place of the present one. */
public final class RestoreCommand implements Command {
  private static final String BACK = "back";
  private static final String REMOVE = "remove-aside";
  private static final String EMPTY = "empty";
  private static final String INTO = "into-database";

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
    options.addOption(
        Option.builder()
            .longOpt(EMPTY)
            .desc("take all tables of the copy away; they are set aside")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(INTO)
            .hasArg()
            .argName("NAME")
            .desc(
                "put it into an empty database beside the copy's, which stays as it is: its name on the"
                    + " server, or a new file of SQLite")
            .get());
    options.addOption(MaskedPeople.option());
    return options;
  }

  @Override
  public String arguments() {
    return "[COPY] [FROM] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex restore live",
        "weftex restore live before-the-merge.sql.gz --yes skerrow",
        "weftex restore staging live",
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
    long alone = Stream.of(BACK, REMOVE, EMPTY).filter(line::hasOption).count();
    if (alone > 1 || alone == 1 && (said.size() == 2 || line.hasOption(INTO))) {
      throw wrong(
          "--back, --remove-aside and --empty read no file, exclude each other, and do not go with"
              + " --into-database.");
    }
    MaskedPeople.check(line, place, said.get(0), "Nothing was changed.");
    CopySpec spec = MergedFile.database(place, said.get(0));
    FileClaim held = place.hold("restore", "restoring a copy");
    try {
      return run(line, session, place, spec, said);
    } finally {
      held.close();
    }
  }

  private static Result run(
      CommandLine line, Session session, Workplace place, CopySpec spec, List<String> said)
      throws Refusal, IOException {
    boolean reads = !line.hasOption(BACK) && !line.hasOption(REMOVE) && !line.hasOption(EMPTY);
    RestoreReport done =
        reads
            ? read(line, session, place, spec, said.size() == 2 ? said.get(1) : "")
            : withoutFile(line, session, place, spec);
    return new Result(ExitStatus.DONE, done, page -> RestoreText.print(page, done));
  }

  private static RestoreReport withoutFile(
      CommandLine line, Session session, Workplace place, CopySpec spec)
      throws Refusal, IOException {
    Claim claim = Copy.reach(spec).claim();
    try {
      return line.hasOption(EMPTY)
          ? emptied(line, session, place, spec)
          : aside(line, session, place, spec);
    } finally {
      claim.close();
    }
  }

  private static RestoreReport read(
      CommandLine line, Session session, Workplace place, CopySpec spec, String from)
      throws Refusal, IOException {
    Copy copy = Copy.reach(spec);
    RestoreReport done;
    try (RestoreSource source = RestoreSource.of(line, session, place, copy, from)) {
      Claim claim = copy.claim();
      try {
        done =
            line.hasOption(INTO)
                ? beside(line, session, spec, source)
                : restored(line, session, place, spec, source);
      } finally {
        claim.close();
      }
      // The base is noted in the copy's ledger, which is a claim of its own.
      return source.isOtherCopy() && done.database().isEmpty()
          ? done.withBase(source.mark(new Remade(place, spec.name())))
          : done;
    }
  }

  private static Refusal wrong(String what) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", "Run 'weftex restore --help'.");
  }

  private static RestoreReport aside(
      CommandLine line, Session session, Workplace place, CopySpec spec)
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
      RestoreQuestions.confirm(line, session, place, spec);
      Remade remade = new Remade(place, spec.name());
      back(place, back, restorer, remade);
    }
    return RestoreReport.of(back ? "back" : "removed", spec.name());
  }

  private static void back(Workplace place, boolean back, Restorer restorer, Remade remade)
      throws Refusal, IOException {
    if (back) {
      restorer.back();
      remade
          .back()
          .ifPresent(
              base ->
                  place.say(
                      "The base is again "
                          + base.copy()
                          + " of "
                          + Times.shown(base.marked())
                          + "."));
    } else {
      restorer.dropAside();
      remade.forget();
    }
  }

  private static RestoreReport emptied(
      CommandLine line, Session session, Workplace place, CopySpec spec)
      throws Refusal, IOException {
    try (Restorer restorer = Restorer.nothing(spec)) {
      Map<String, Restoring.Since> since = restorer.since();
      place.say(
          "All tables of "
              + spec.name()
              + " ("
              + spec.place()
              + ") are taken away: "
              + RestoreText.rows(since)
              + ".");
      RestoreQuestions.confirm(line, session, place, spec);
      // What is set aside from here on is what the present base is of.
      new Remade(place, spec.name()).forget();
      restorer.switchOver();
    }
    return RestoreReport.of("emptied", spec.name());
  }

  private static RestoreReport restored(
      CommandLine line, Session session, Workplace place, CopySpec spec, RestoreSource source)
      throws Refusal, IOException {
    Remade remade = new Remade(place, spec.name());
    long began = System.nanoTime();
    try (Progress progress = loading(session, source);
        Restorer restorer = Restorer.load(spec, source.saved(), progress)) {
      Map<String, Restoring.Since> since = restorer.since();
      double loading = Took.secondsSince(began);
      RestoreQuestions.sayBefore(place, spec, source, restorer, since);
      RestoreQuestions.confirm(line, session, place, spec);
      long confirmed = System.nanoTime();
      if (source.isOtherCopy()) {
        restorer.dropAside();
        remade.begin();
      } else {
        remade.forget();
      }
      restorer.switchOver();
      RestoreQuestions.saySetAside(place, spec, source);
      return new RestoreReport(
          source.kept().isPresent() ? "remade" : "restored",
          spec.name(),
          source.words(),
          source.taken(),
          new RestoreReport.Contents(restorer.tables(), restorer.rows(), since),
          "",
          source.kept().map(RestoreQuestions::kept),
          Optional.empty(),
          loading + Took.secondsSince(confirmed));
    }
  }

  private static Progress loading(Session session, RestoreSource source) throws IOException {
    return Progress.ofBytes(
        session, "loading " + source.words(), Files.size(source.saved().file()));
  }

  /** Nothing is replaced, so nobody is asked. */
  private static RestoreReport beside(
      CommandLine line, Session session, CopySpec spec, RestoreSource source)
      throws Refusal, IOException {
    String name = line.getOptionValue(INTO);
    boolean server = spec instanceof CopySpec.Server;
    CopySpec into =
        spec.inDatabase(server ? name : session.folder().resolve(name).normalize().toString());
    long began = System.nanoTime();
    NewDatabase.make(into);
    try (Progress progress = loading(session, source);
        Restorer restorer = Restorer.load(into, source.saved(), progress)) {
      restorer.switchOver();
      return new RestoreReport(
          "restored",
          spec.name(),
          source.words(),
          source.taken(),
          new RestoreReport.Contents(restorer.tables(), restorer.rows(), Map.of()),
          name,
          source.kept().map(RestoreQuestions::kept),
          Optional.empty(),
          Took.secondsSince(began));
    }
  }
}
