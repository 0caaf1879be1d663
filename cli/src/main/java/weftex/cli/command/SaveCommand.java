package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.render.Progress;
import weftex.cli.render.SaveText;
import weftex.cli.result.SaveReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.CopySpec;
import weftex.store.dump.CopySaver;
import weftex.store.dump.RestorePoints;

/** Saves a copy as plain SQL. */
final class SaveCommand implements Command {
  private static final String WHOLE = "whole-database";
  private static final double NANOS = 1e9;

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
    return options;
  }

  @Override
  public String arguments() {
    return "[COPY] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of("weftex save live", "weftex save live -o before-the-merge.sql.gz");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    String name = place.copyName(line);
    CopySpec spec = place.pair().copy(name);
    RestorePoints points = place.restorePoints();
    if (line.hasOption(WHOLE) && !line.hasOption("out")) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "A whole database is no restore point of one copy. Nothing was written.",
          "Say with -o where it goes.");
    }
    Path file = line.hasOption("out") ? out(line, session, place) : points.newFile(name);
    // Says what is wrong with the place, the user or the prefix.
    Copy.reach(spec);
    boolean whole = line.hasOption(WHOLE);
    Optional<String> restore =
        whole
            ? Optional.empty()
            : Optional.of(
                "weftex restore " + name + (line.hasOption("out") ? " " + place.shown(file) : ""));
    return saved(place, session, whole ? spec.withPrefix("") : spec, file, restore);
  }

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

  private static Result saved(
      Workplace place, Session session, CopySpec spec, Path file, Optional<String> restore)
      throws Refusal, IOException {
    long began = System.nanoTime();
    CopySaver.Saved saved;
    try (Progress progress = Progress.start(session, "saving " + spec.name(), -1)) {
      saved = place.restorePoints().save(spec, file, progress);
    }
    SaveReport report =
        new SaveReport(
            spec.name(),
            spec.place(),
            place.shown(file),
            restore,
            saved.rows(),
            saved.left(),
            saved.bytes(),
            (System.nanoTime() - began) / NANOS);
    return new Result(ExitStatus.DONE, report, page -> SaveText.print(page, report));
  }
}
