package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.page.Progress;
import weftex.cli.render.SaveText;
import weftex.cli.result.SaveReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.session.Took;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.MaskedPeople;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.dump.CopySaver;
import weftex.store.dump.Refit;
import weftex.store.dump.RestorePoints;
import weftex.store.refit.Refitting;

/** Saves a copy as plain SQL. */
public final class SaveCommand implements Command {
  private static final String WHOLE = "whole-database";
  private static final String FOR = "for";

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder("o")
            .longOpt("out")
            .hasArg()
            .argName("FILE")
            .desc(
                "where to write it; .sql.zst, .sql.gz or .sql (default: a new file in"
                    + " .weftex/restore-points)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(WHOLE)
            .desc("all tables of the database, not only those with the copy's prefix")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(FOR)
            .hasArg()
            .argName("COPY")
            .desc("with the other copy's addresses and prefix, so that it can take its place")
            .get());
    options.addOption(MaskedPeople.option());
    return options;
  }

  @Override
  public String arguments() {
    return "[COPY] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex save live",
        "weftex save live -o before-the-merge.sql.gz",
        "weftex save staging --for live -o first-launch.sql.gz");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    String name = place.copyName(line);
    CopySpec spec = place.pair().copy(name);
    RestorePoints points = place.restorePoints();
    boolean whole = line.hasOption(WHOLE);
    boolean forOther = line.hasOption(FOR) && !line.getOptionValue(FOR).equals(name);
    if ((whole || forOther) && !line.hasOption("out")) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          (whole ? "A whole database" : "A copy written for the other one's place")
              + " is no restore point of one copy. Nothing was written.",
          "Say with -o where it goes.");
    }
    if (whole && forOther) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--for writes the tables of one copy, and --whole-database all others, too. Nothing was"
              + " written.",
          "Say one or the other.");
    }
    MaskedPeople.check(
        line, place, forOther ? line.getOptionValue(FOR) : name, "Nothing was written.");
    Path file = line.hasOption("out") ? out(line, session, place) : points.newFile(name);
    // Says what is wrong with the place, the user or the prefix.
    Copy copy = Copy.reach(spec);
    if (forOther) {
      return savedForOther(line, session, place, spec, file, copy);
    }
    Optional<String> restore =
        whole ? Optional.empty() : Optional.of(restore(name, place, line, file));
    CopySpec rows = whole ? spec.withPrefix("") : spec;
    return saved(
        place, session, new What(rows, Refit.NONE, file, restore, whole ? -1 : copy.roughRows()));
  }

  /** Writes a copy as the other one would hold it. */
  private Result savedForOther(
      CommandLine line, Session session, Workplace place, CopySpec spec, Path file, Copy copy)
      throws Refusal, IOException {
    CopySpec target = place.pair().copy(line.getOptionValue(FOR));
    MaskedPeople.say(place, target.name());
    Refit refit =
        Refitting.of(
            copy,
            target,
            place.pair().model(),
            place.pair().addresses(),
            MaskedPeople.masking(place, spec.name(), target.name()));
    return saved(
        place,
        session,
        new What(
            spec,
            refit,
            file,
            Optional.of(restore(target.name(), place, line, file)),
            copy.roughRows()));
  }

  private static String restore(String copy, Workplace place, CommandLine line, Path file) {
    return "weftex restore " + copy + (line.hasOption("out") ? " " + place.shown(file) : "");
  }

  /**
   * What is saved.
   *
   * @param restore the command that puts it in its place
   * @param about how many rows there are, about; -1 if nobody knows
   */
  private record What(
      CopySpec rows, Refit refit, Path file, Optional<String> restore, long about) {}

  private static Path out(CommandLine line, Session session, Workplace place) throws Refusal {
    Path file = session.folder().resolve(line.getOptionValue("out"));
    if (Files.exists(file)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file) + " is there already. Nothing was written.",
          "Name another file.");
    }
    return file;
  }

  private static Result saved(Workplace place, Session session, What what)
      throws Refusal, IOException {
    long began = System.nanoTime();
    CopySaver.Saved saved;
    try (Progress progress =
        Progress.start(session, "saving " + what.rows().name(), what.about())) {
      saved = place.restorePoints().save(what.rows(), what.refit(), what.file(), progress);
    }
    SaveReport report =
        new SaveReport(
            what.rows().name(),
            what.rows().place(),
            place.shown(what.file()),
            what.restore(),
            saved.rows(),
            saved.left(),
            Took.since(began, saved.bytes()));
    return new Result(ExitStatus.DONE, report, page -> SaveText.print(page, report));
  }
}
