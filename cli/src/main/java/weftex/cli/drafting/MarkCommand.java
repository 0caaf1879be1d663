package weftex.cli.drafting;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.page.Progress;
import weftex.cli.render.MarkText;
import weftex.cli.result.MarkReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.AddressCheck;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.KnownPairs;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.capture.Bases;
import weftex.store.capture.LedgerPlace;
import weftex.store.compare.CopyMarks;
import weftex.store.compare.Likeness;
import weftex.store.compare.Recording;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.file.PairFolders;
import weftex.store.state.FileClaim;

/** Records the base, once it is sure that both copies are alike. */
public final class MarkCommand implements Command {
  private static final String WORKED_OUT = "worked-out";
  static final String ANYHOW = "although-different";

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("from")
            .hasArg()
            .argName("COPY")
            .desc("the copy whose rows are recorded: staging (default) or live")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("back")
            .desc("return to the base that was recorded before the present one")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(ANYHOW)
            .desc(
                "record it although the copies differ: the recorded copy's side counts as what both"
                    + " had, so its differences look like edits of the other copy")
            .get());
    return addOther(options);
  }

  /** Where the base comes from, if not from the copies as they are. */
  private Options addOther(Options options) {
    options.addOption(
        Option.builder()
            .longOpt(FromFileMark.FROM_FILE)
            .hasArg()
            .argName("FILE")
            .desc(
                "record a backup of live (with --from staging: of staging) of the time when both copies"
                    + " were alike: a file of SQL, or an SQLite database")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(WORKED_OUT)
            .desc(
                "the copies have parted and nobody recorded a base: work out what both had, by IDs and"
                    + " times of change; shows what it found, and records it with --yes")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("parted")
            .hasArg()
            .argName("WHEN")
            .desc(
                "with --worked-out: when the copies parted, as the site writes times (default: found"
                    + " in the rows)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt("thorough")
            .desc("read every file that rows name on both copies, even where size and time agree")
            .get());
    options.addOption(Option.builder().longOpt("yes").desc("with --worked-out: record it").get());
    return options;
  }

  @Override
  public String arguments() {
    return "[options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex mark",
        "weftex mark --from live",
        "weftex mark --back",
        "weftex mark --from-file live-2026-11-01.sql.gz",
        "weftex mark --worked-out --parted '2026-11-01 09:00'");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    if (line.hasOption("back") && (line.hasOption("from") || line.hasOption(ANYHOW))) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--back returns to an earlier base, and --from and --"
              + ANYHOW
              + " record a new one. Nothing was changed.",
          "Say one or the other.");
    }
    boolean ofFile = line.hasOption(FromFileMark.FROM_FILE);
    boolean workedOut = line.hasOption(WORKED_OUT);
    if (ofFile && (workedOut || line.hasOption("back"))) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--from-file records a backup, and --back and --worked-out do without one. Nothing was"
              + " changed.",
          "Say one or the other.");
    }
    if (workedOut && (line.hasOption("back") || line.hasOption("from") || line.hasOption(ANYHOW))
        || !workedOut && (line.hasOption("parted") || line.hasOption("yes"))) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--parted and --yes go with --worked-out, and no other option does. Nothing was changed.",
          "Run 'weftex mark --help'.");
    }
    Workplace place = Workplace.open(line, session);
    FileClaim held = place.hold("mark", "recording the base");
    try {
      if (ofFile) {
        return FromFileMark.run(line, session, place);
      }
      if (workedOut) {
        return WorkedOutMark.run(line, session, place);
      }
      return line.hasOption("back") ? back(place) : mark(line, session, place);
    } finally {
      held.close();
    }
  }

  private static Result back(Workplace place) throws Refusal, IOException {
    Bases.Earlier base =
        place
            .bases()
            .back()
            .orElseThrow(
                () ->
                    new Refusal(
                        Refusal.Kind.WRONG_INPUT,
                        "No base was recorded before the present one. Nothing was changed.",
                        "'weftex history' lists the bases that are kept."));
    return new Result(ExitStatus.DONE, base, page -> MarkText.printBack(page, base));
  }

  private static Result mark(CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    CopySpec spec = place.pair().copy(line.getOptionValue("from", "staging"));
    List<Copy> both = Copy.reach(spec, place.pair().other(spec.name()));
    Copy copy = both.get(0);
    Copy other = both.get(1);
    AddressCheck.check(place.pair(), copy, other);
    KnownPairs.check(place, copy, other);
    Bases bases = place.bases();
    String marked = session.now();
    // Before the rows are read: what is merged from here on counts.
    Map<String, LedgerPlace> places = CopyMarks.now(copy, other);
    try {
      MarkReport report = recorded(copy, other, marked, line, place);
      if (report.base().recorded()) {
        place.accept(places, marked, copy, other);
      }
      return new Result(
          report.base().recorded() ? ExitStatus.DONE : ExitStatus.PROTECTED,
          report,
          page -> MarkText.print(page, report));
    } finally {
      bases.discard();
    }
  }

  /** Records a candidate for a base, and compares the copies by it. */
  private static MarkReport recorded(
      Copy copy, Copy other, String marked, CommandLine line, Workplace place)
      throws Refusal, IOException {
    Recording recording = place.recording(copy.name());
    Bases bases = place.bases();
    Session session = place.session();
    Recording.Recorded recorded;
    String problem;
    try (PairFolders folders = Folders.open(place, line.hasOption("thorough"));
        Progress progress = Progress.start(session, "recording " + copy.name(), copy.roughRows())) {
      problem = folders.problem();
      recorded =
          recording.record(
              copy,
              other,
              bases,
              marked,
              new Recording.Scope(Map.of(), folders, line.hasOption("thorough")),
              progress);
    }
    Likeness likeness = likeness(copy, other, place, recording, recorded.rows());
    return new MarkReport(
        new MarkReport.Copies(copy.name(), other.name(), copy.spec().place()),
        new MarkReport.Base(
            marked, likeness.isAlike() || line.hasOption(ANYHOW), bases.isRecorded()),
        new MarkReport.Contents(recorded.tables(), recorded.rows(), recorded.noise()),
        recorded.files(),
        problem,
        likeness,
        place.took(bases.candidate()));
  }

  private static Likeness likeness(
      Copy copy, Copy other, Workplace place, Recording recording, long rows)
      throws Refusal, IOException {
    try (Progress progress =
        Progress.start(place.session(), "comparing with " + other.name(), rows)) {
      return recording.compare(
          copy, other, place.bases(), place.state().temporary("differences"), progress);
    }
  }
}
