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
import weftex.cli.workplace.OwnAddress;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.core.address.Address;
import weftex.store.Refusal;
import weftex.store.capture.Bases;
import weftex.store.capture.LedgerPlace;
import weftex.store.compare.CopyMarks;
import weftex.store.compare.Likeness;
import weftex.store.compare.Recording;
import weftex.store.copy.Copy;
import weftex.store.dump.SqlFile;
import weftex.store.rows.Ledger;

/** Records a base from a backup of the time when both copies were alike. */
final class FromFileMark {
  static final String FROM_FILE = "from-file";

  private final CommandLine line;
  private final Session session;
  private final Workplace place;
  private final Path file;
  private final String name;

  private FromFileMark(CommandLine line, Session session, Workplace place) {
    this.line = line;
    this.session = session;
    this.place = place;
    this.file = session.folder().resolve(line.getOptionValue(FROM_FILE)).normalize();
    this.name = line.getOptionValue("from", "live");
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
    checkSite(earlier);
    checkMerges(earlier, copy, other);
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
      throw unlike(report);
    }
    place.accept(places, marked, copy, other);
    return new Result(ExitStatus.DONE, report, page -> FromFileText.print(page, report));
  }

  private Refusal unlike(FromFileReport report) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "Only "
            + report.alike()
            + " of "
            + report.rows()
            + " rows of "
            + report.file()
            + " are on "
            + report.other()
            + " as they are there, so it hardly is what both copies came from. No base was recorded.",
        "Name a backup of the time when staging was made; if this is it, add --"
            + MarkCommand.ANYHOW
            + ".");
  }

  /** A backup of another site would make every row seem to be new. */
  private void checkSite(Copy earlier) throws Refusal {
    Optional<Address> said = OwnAddress.configured(place.pair(), name);
    Optional<String> own = OwnAddress.said(place.pair(), earlier);
    if (own.isPresent() && said.isPresent() && !OwnAddress.isAt(own.get(), said.get())) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file)
              + " is no backup of "
              + name
              + ": it knows itself as "
              + own.get()
              + ", and "
              + name
              + " is "
              + said.get()
              + ". No base was recorded.",
          "Name another file, or say with --from which copy it is a backup of.");
    }
  }

  /** What was merged since would seem to be edits of both copies. */
  private void checkMerges(Copy earlier, Copy copy, Copy other) throws Refusal {
    List<Ledger.Entry> known = earlier.ledger();
    long last = known.stream().mapToLong(Ledger.Entry::sequence).max().orElse(0);
    String at = known.stream().map(Ledger.Entry::writtenAt).max(String::compareTo).orElse("");
    long since =
        merges(copy).stream().filter(entry -> entry.sequence() > last).count()
            + merges(other).stream().filter(entry -> entry.writtenAt().compareTo(at) > 0).count();
    if (since > 0) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          since
              + (since == 1 ? " merge was" : " merges were")
              + " made since "
              + place.shown(file)
              + " was written, and a base must not be older than the last one. No base was recorded.",
          "Keep the base that is in force ('weftex history' lists those that there are), or name a"
              + " newer backup.");
    }
  }

  private static List<Ledger.Entry> merges(Copy copy) throws Refusal {
    return copy.ledger().stream().filter(entry -> !entry.kind().equals("mark")).toList();
  }
}
