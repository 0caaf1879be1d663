package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import weftex.cli.render.Page;
import weftex.cli.render.Progress;
import weftex.cli.render.Sizes;
import weftex.cli.render.Times;
import weftex.cli.session.Session;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.CopySpec;
import weftex.store.dump.CopySaver;
import weftex.store.dump.SqlFile;

/** Where the rows go after an apply, if the target is a file of SQL. */
final class MergedFile {
  private static final String OUT = "out";

  private final SqlFile source;
  private final Path file;
  private final Workplace place;
  private final Session session;

  private MergedFile(SqlFile source, Path file, Workplace place, Session session) {
    this.source = source;
    this.file = file;
    this.place = place;
    this.session = session;
  }

  static Option option() {
    return Option.builder("o")
        .longOpt(OUT)
        .hasArg()
        .argName("FILE")
        .desc("where a copy that is a file of SQL is written to with the changes made")
        .get();
  }

  /**
   * The file that the command line names; empty if the target is a database.
   *
   * @throws Refusal if one is named and not needed, or the other way round
   */
  static Optional<MergedFile> of(CommandLine line, Session session, Workplace place, Copy target)
      throws Refusal {
    Optional<SqlFile> source = SqlFile.of(target.spec());
    if (source.isEmpty() && !line.hasOption(OUT)) {
      return Optional.empty();
    }
    if (source.isEmpty() || !line.hasOption(OUT)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          source.isEmpty()
              ? target.name()
                  + " is a database, and -o is for a copy that is a file. Nothing was changed."
              : target.name()
                  + " is the file "
                  + place.shown(source.get().file())
                  + ", which is never written to. Nothing was changed.",
          source.isEmpty() ? "Leave it out." : "Say with -o where it goes with the changes made.");
    }
    Path file = session.folder().resolve(line.getOptionValue(OUT));
    if (Files.exists(file)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file) + " is there already. Nothing was changed.",
          "Name another file.");
    }
    return Optional.of(new MergedFile(source.get(), file, place, session));
  }

  /** A copy that is no file, for what is done to databases alone. */
  static CopySpec database(Workplace place, String name) throws Refusal {
    CopySpec spec = place.pair().copy(name);
    if (spec.origin().isPresent()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          spec.name()
              + " is the "
              + spec.origin().get().place()
              + ", which is never written to. Nothing was changed.",
          "Import the file that you had before into the site's database.");
    }
    return spec;
  }

  /** Before the rows are changed that were loaded from the file: they are its rows no longer. */
  void begin() throws Refusal {
    source.soil();
  }

  /** Writes the merged copy. */
  void write() throws Refusal, IOException {
    CopySaver.About about = new CopySaver.About(place.pair().site(), session.now(), Session.TOOL);
    try (Progress progress = Progress.start(session, "writing " + place.shown(file), -1)) {
      CopySaver.Saved saved = source.write(file, about, progress);
      place.say("Wrote " + place.shown(file) + " (" + Sizes.shown(saved.bytes()) + ").");
      saved.left().forEach(left -> place.say("Not saved: " + left + "."));
    }
    if (!source.left().isEmpty()) {
      place.say(
          "Not in it are the views, triggers and routines of "
              + place.shown(source.file())
              + " (at line "
              + Page.shortened(source.left(), 60)
              + "): to import it takes the triggers of its tables away. Make them anew from there.");
    }
    place.say(
        "To import it replaces the whole database: what visitors wrote since "
            + place.shown(source.file())
            + " was exported ("
            + Times.shown(Files.getLastModifiedTime(source.file()).toInstant().toString())
            + " or before) would be lost.");
  }
}
