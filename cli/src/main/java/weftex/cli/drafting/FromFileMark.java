package weftex.cli.drafting;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import weftex.cli.page.Progress;
import weftex.cli.render.FromFileText;
import weftex.cli.result.FromFileReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.AddressCheck;
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
import weftex.store.dump.SqlFile;

/** Records a base from a backup of the time when both copies were alike. */
final class FromFileMark {
  static final String FROM_FILE = "from-file";

  private final CommandLine line;
  private final Session session;
  private final Workplace place;
  private final Path file;
  private final String name;
  private final EarlierCopyCheck checks;

  private FromFileMark(CommandLine line, Session session, Workplace place) {
    this.line = line;
    this.session = session;
    this.place = place;
    this.file = session.folder().resolve(line.getOptionValue(FROM_FILE)).normalize();
    this.name = line.getOptionValue("from", "live");
    this.checks = new EarlierCopyCheck(place, name, file);
  }

  static Result run(CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    return new FromFileMark(line, session, place).run();
  }

  private Result run() throws Refusal, IOException {
    if (!Files.isRegularFile(file)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          place.shown(file)
              + (Files.exists(file) ? " is no ordinary file" : " is not there")
              + ". No base was recorded.",
          "Name a file of SQL, or an SQLite database.");
    }
    List<Copy> both = Copy.reach(place.pair().copy(name), place.pair().other(name));
    Copy copy = both.get(0);
    Copy other = both.get(1);
    AddressCheck.check(place.pair(), copy, other);
    KnownPairs.check(place, copy, other);
    Copy earlier = Copy.reach(place.earlier(line, name, file));
    Bases bases = place.bases();
    String marked = session.now();
    Map<String, LedgerPlace> places = CopyMarks.now(copy, other);
    try {
      return recorded(copy, other, earlier, marked, places);
    } finally {
      bases.discard();
      Optional<SqlFile> loaded = SqlFile.of(earlier.spec());
      if (loaded.isPresent()) {
        loaded.get().discard();
      }
    }
  }

  private Result recorded(
      Copy copy, Copy other, Copy earlier, String marked, Map<String, LedgerPlace> places)
      throws Refusal, IOException {
    checks.checkSite(earlier);
    checks.checkMerges(earlier, copy, other);
    Recording recording = place.recording(name);
    Bases bases = place.bases();
    Recording.Recorded recorded;
    try (Progress progress = Progress.start(session, "recording " + file.getFileName(), -1)) {
      recorded = recording.record(earlier, other, bases, marked, progress);
    }
    Likeness likeness;
    try (Progress progress =
        Progress.start(session, "comparing with " + other.name(), recorded.rows())) {
      likeness =
          recording.compare(
              earlier, other, bases, place.state().temporary("differences"), progress);
    }
    FromFileReport report =
        new FromFileReport(
            place.shown(file),
            name,
            other.name(),
            marked,
            bases.isRecorded(),
            recorded.tables(),
            recorded.rows(),
            recorded.noise(),
            likeness);
    if (report.alike() * 2 < report.rows() && !line.hasOption(MarkCommand.ANYHOW)) {
      throw checks.unlike(report);
    }
    place.accept(places, marked, copy, other);
    return new Result(ExitStatus.DONE, report, page -> FromFileText.print(page, report));
  }
}
