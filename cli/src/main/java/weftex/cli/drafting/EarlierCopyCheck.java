package weftex.cli.drafting;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import weftex.cli.result.FromFileReport;
import weftex.cli.workplace.OwnAddress;
import weftex.cli.workplace.Workplace;
import weftex.core.address.Address;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.rows.Ledger;

/** Whether a backup is one of what a base is recorded for. */
final class EarlierCopyCheck {

  private final Workplace place;
  private final String name;
  private final Path file;

  EarlierCopyCheck(Workplace place, String name, Path file) {
    this.place = place;
    this.name = name;
    this.file = file;
  }

  Refusal unlike(FromFileReport report) {
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
  void checkSite(Copy earlier) throws Refusal {
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
  void checkMerges(Copy earlier, Copy copy, Copy other) throws Refusal {
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

  static List<Ledger.Entry> merges(Copy copy) throws Refusal {
    return copy.ledger().stream().filter(entry -> !entry.kind().equals("mark")).toList();
  }
}
