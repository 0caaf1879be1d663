package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import weftex.cli.page.Page;
import weftex.cli.page.Progress;
import weftex.cli.page.Sizes;
import weftex.cli.page.Times;
import weftex.cli.session.Session;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.apply.Applier;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.dump.CopySaver;
import weftex.store.dump.SqlFile;

/** Where the rows go after an apply, if the target is a file of SQL. */
final class MergedFile {
  static final String SCRIPT = "script";
  private static final String OUT = "out";

  /** How many IDs visitors may take between the export and the import. */
  private static final long SPARE = 1000;

  private final SqlFile source;
  private final Optional<Path> whole;
  private final Optional<ScriptFiles> scripts;
  private final Workplace place;
  private final Session session;

  private MergedFile(
      SqlFile source,
      Optional<Path> whole,
      Optional<ScriptFiles> scripts,
      Workplace place,
      Session session) {
    this.source = source;
    this.whole = whole;
    this.scripts = scripts;
    this.place = place;
    this.session = session;
  }

  static List<Option> options() {
    return List.of(
        Option.builder("o")
            .longOpt(OUT)
            .hasArg()
            .argName("FILE")
            .desc("where a copy that is a file of SQL is written to with the changes made")
            .get(),
        Option.builder()
            .longOpt(SCRIPT)
            .hasArg()
            .argName("FILE")
            .desc(
                "where only the changes are written to, as a script to import that writes all of them"
                    + " or nothing; one that takes them back is written beside it")
            .get());
  }

  /**
   * The files that the command line names; empty if the target is a database.
   *
   * @throws Refusal if one is named and not needed, or the other way round
   */
  static Optional<MergedFile> of(CommandLine line, Session session, Workplace place, Copy target)
      throws Refusal {
    Optional<SqlFile> source = SqlFile.of(target.spec());
    boolean named = line.hasOption(OUT) || line.hasOption(SCRIPT);
    if (source.isEmpty() && !named) {
      return Optional.empty();
    }
    checkNamed(place, target, source, named);
    if (line.hasOption(SCRIPT) && line.hasOption("even-if-no-rollback")) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "A script writes all or nothing, which no engine can that can't roll back. Nothing was"
              + " changed.",
          "Leave --even-if-no-rollback out, or write the whole copy with -o.");
    }
    Optional<ScriptFiles> scripts =
        line.hasOption(SCRIPT)
            ? Optional.of(
                ScriptFiles.of(
                    free(line.getOptionValue(SCRIPT), session, place), target, place, session))
            : Optional.empty();
    Optional<Path> whole =
        line.hasOption(OUT)
            ? Optional.of(free(line.getOptionValue(OUT), session, place))
            : Optional.empty();
    return Optional.of(new MergedFile(source.get(), whole, scripts, place, session));
  }

  /** A copy that is a file needs a file to write, and no other copy takes one. */
  private static void checkNamed(
      Workplace place, Copy target, Optional<SqlFile> source, boolean named) throws Refusal {
    if (source.isEmpty() || !named) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          source.isEmpty()
              ? target.name()
                  + " is a database, and -o and --script are for a copy that is a file. Nothing was"
                  + " changed."
              : target.name()
                  + " is the file "
                  + place.shown(source.get().file())
                  + ", which is never written to. Nothing was changed.",
          source.isEmpty()
              ? "Leave it out."
              : "Say with --script where the changes go as a script to import, or with -o where the"
                  + " whole copy goes with the changes made.");
    }
  }

  private static Path free(String name, Session session, Workplace place) throws Refusal {
    Path file = session.folder().resolve(name);
    if (Files.exists(file)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file) + " is there already. Nothing was changed.",
          "Name another file.");
    }
    return file;
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

  /** Where time passes before the rows are there, IDs that others take meanwhile stay free. */
  Applier leavingRoom(Applier applier) {
    return scripts.isPresent() ? applier.leaving(SPARE) : applier;
  }

  /** Before the rows are changed that were loaded from the file: they are its rows no longer. */
  void begin() throws Refusal {
    source.soil();
  }

  /**
   * Writes the merged copy and the script.
   *
   * @param receipt of the apply to the rows that were loaded
   */
  void write(String receipt) throws Refusal, IOException {
    if (whole.isPresent()) {
      writeWhole(whole.get());
    }
    if (scripts.isPresent()) {
      scripts.get().write(receipt, source);
    }
  }

  /** The file that a person imports now. */
  String toImport() {
    return place.shown(scripts.map(ScriptFiles::file).or(() -> whole).orElseThrow());
  }

  private void writeWhole(Path file) throws Refusal, IOException {
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
              + "): to import it takes the triggers of its tables away. Create them again from there.");
    }
    place.say(
        "To import it replaces the whole database: what visitors wrote since "
            + place.shown(source.file())
            + " was exported ("
            + Times.shown(Files.getLastModifiedTime(source.file()).toInstant().toString())
            + " or before) would be lost."
            + (scripts.isPresent()
                ? ""
                : " 'weftex apply --script FILE' writes the changes alone, and nothing is lost."));
  }
}
