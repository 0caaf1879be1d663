package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.apache.commons.cli.CommandLine;
import weftex.cli.page.Progress;
import weftex.cli.session.Session;
import weftex.cli.workplace.AddressCheck;
import weftex.cli.workplace.MaskedPeople;
import weftex.cli.workplace.OwnAddress;
import weftex.cli.workplace.Remade;
import weftex.cli.workplace.Workplace;
import weftex.core.address.Address;
import weftex.store.Refusal;
import weftex.store.capture.LedgerPlace;
import weftex.store.compare.CopyMarks;
import weftex.store.copy.Copy;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;
import weftex.store.dump.DumpDialect;
import weftex.store.dump.Refit;
import weftex.store.dump.RestorePoints;
import weftex.store.dump.SavedCopy;
import weftex.store.dump.SqlFile;
import weftex.store.refit.Refitting;

/**
 * What is put in a copy's place: a file that Weftex saved of it, any other file of SQL, or the
 * other copy. All but the first are written as such a file before anything else is done.
 */
final class RestoreSource implements AutoCloseable {
  private static final Set<String> COPIES = Set.of("staging", "live");

  private final Session session;
  private final Copy target;
  private final String words;
  private final Refitted refitted;
  private final SavedCopy saved;
  private final Optional<Path> temporary;

  /**
   * How it was made fit for the copy's place.
   *
   * @param kept what stays of the copy's own
   * @param ledgers how far both copies' ledgers are, if it is the other copy
   */
  private record Refitted(Optional<Refitting.Kept> kept, Map<String, LedgerPlace> ledgers) {
    private static final Refitted NOT = new Refitted(Optional.empty(), Map.of());
  }

  private RestoreSource(
      Session session,
      Copy target,
      String words,
      Refitted refitted,
      SavedCopy saved,
      Optional<Path> temporary) {
    this.session = session;
    this.target = target;
    this.words = words;
    this.refitted = refitted;
    this.saved = saved;
    this.temporary = temporary;
  }

  /**
   * Finds it, and writes it as a saved copy if it is none.
   *
   * @param said a file, or the name of the other copy; empty for the newest restore point
   * @throws Refusal if it is no state of this site
   */
  static RestoreSource of(
      CommandLine line, Session session, Workplace place, Copy target, String said)
      throws Refusal, IOException {
    if (said.isEmpty()) {
      return saved(session, place, target, newest(place, target.name()));
    }
    Path file = session.folder().resolve(said).normalize();
    if (!Files.exists(file) && COPIES.contains(said)) {
      if (said.equals(target.name())) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            target.name() + " can't be restored from itself. Nothing was changed.",
            "Name a file, or the other copy.");
      }
      return ofOtherCopy(session, place, target);
    }
    if (SavedCopy.isOne(file, place.atRest()) || !Files.isRegularFile(file)) {
      SavedCopy saved = SavedCopy.open(file, place.atRest());
      checkSite(saved, place, target.name());
      if (saved.copy().equals(target.name())) {
        return saved(session, place, target, file);
      }
    }
    return ofFile(line, session, place, target, file);
  }

  private static RestoreSource saved(Session session, Workplace place, Copy target, Path file)
      throws Refusal, IOException {
    return new RestoreSource(
        session,
        target,
        place.shown(file),
        Refitted.NOT,
        SavedCopy.open(file, place.atRest()),
        Optional.empty());
  }

  private static Path newest(Workplace place, String copy) throws Refusal, IOException {
    return place.restorePoints().all().stream()
        .filter(point -> point.copy().equals(copy))
        .map(RestorePoints.Point::file)
        .findFirst()
        .orElseThrow(
            () ->
                new Refusal(
                    Refusal.Kind.WRONG_INPUT,
                    "There is no restore point of " + copy + ". Nothing was changed.",
                    "Name a file of SQL, or the other copy."));
  }

  private static void checkSite(SavedCopy saved, Workplace place, String copy) throws Refusal {
    if (!saved.site().equals(place.pair().site())) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(saved.file())
              + " is "
              + saved.copy()
              + " of the site '"
              + saved.site()
              + "', and what would be replaced is "
              + copy
              + " of '"
              + place.pair().site()
              + "'. Nothing was changed.",
          "Name a file of this site.");
    }
  }

  private static RestoreSource ofOtherCopy(Session session, Workplace place, Copy target)
      throws Refusal, IOException {
    Copy other = Copy.reach(place.pair().other(target.name()));
    AddressCheck.check(place.pair(), target, other);
    checkAlone(target);
    // Before the rows are read: what is merged from here on counts.
    Map<String, LedgerPlace> ledgers = CopyMarks.now(other, target);
    return written(session, place, target, other, other.name(), ledgers);
  }

  /** What several sites have in common can't be replaced for one of them. */
  private static void checkAlone(Copy target) throws Refusal {
    if (!target.spec().shared().isEmpty() && target.spec().outerPrefix().isPresent()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          target.name()
              + " is one of several sites under one roof, whose accounts are not its own, so it can't be"
              + " made anew from the other copy. Nothing was changed.",
          "Bring the news over with 'weftex draft --into " + target.name() + " --everything'.");
    }
  }

  private static RestoreSource ofFile(
      CommandLine line, Session session, Workplace place, Copy target, Path file)
      throws Refusal, IOException {
    Copy rows = rows(line, place, target, file);
    try {
      if (!rows.name().equals(target.name())) {
        checkMeant(rows.name(), place, target.name(), file);
        checkAlone(target);
      }
      return written(session, place, target, rows, place.shown(file), Map.of());
    } finally {
      discard(rows.spec());
    }
  }

  private static void discard(CopySpec spec) throws Refusal {
    Optional<SqlFile> loaded = SqlFile.of(spec);
    if (loaded.isPresent()) {
      loaded.get().discard();
    }
  }

  /** Whoever takes the wrong file does not lose live by it. */
  private static void checkMeant(String of, Workplace place, String target, Path file)
      throws Refusal {
    if (target.equals("live")) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(file)
              + " is "
              + of
              + " of the site '"
              + place.pair().site()
              + "', and what would be replaced is live. Nothing was changed.",
          "Name a file of live; if live is to become what staging is, say 'weftex restore live staging',"
              + " or write the file with 'weftex save staging --for live'.");
    }
  }

  /** The rows of a file, under the name of the copy whose state they are. */
  private static Copy rows(CommandLine line, Workplace place, Copy target, Path file)
      throws Refusal {
    String other = place.pair().other(target.name()).name();
    Optional<String> unlike = Optional.empty();
    Optional<Refusal> first = Optional.empty();
    boolean samePrefix = place.pair().other(target.name()).prefix().equals(target.spec().prefix());
    for (String name : new String[] {target.name(), other}) {
      CopySpec spec = place.earlier(line, name, file);
      Copy rows;
      try {
        rows = Copy.reach(spec);
      } catch (Refusal e) {
        discard(spec);
        // Under the other copy's prefix there may be tables.
        if (first.isPresent() || samePrefix) {
          throw first.orElse(e);
        }
        first = Optional.of(e);
        continue;
      }
      Optional<String> own = OwnAddress.said(place.pair(), rows);
      Optional<Address> said = OwnAddress.configured(place.pair(), name);
      if (own.isEmpty() || said.isEmpty() || OwnAddress.isAt(own.get(), said.get())) {
        return rows;
      }
      unlike = own;
    }
    throw new Refusal(
        Refusal.Kind.PROTECTED,
        place.shown(file)
            + " is of another site: it knows itself as "
            + unlike.orElse("nothing")
            + ", which is the address of neither copy. Nothing was changed.",
        "Name a file of this site, or correct 'address' in weftex.yaml.");
  }

  private static RestoreSource written(
      Session session,
      Workplace place,
      Copy target,
      Copy rows,
      String words,
      Map<String, LedgerPlace> ledgers)
      throws Refusal, IOException {
    if (!DumpDialect.of(rows.spec()).getClass().equals(DumpDialect.of(target.spec()).getClass())) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          words
              + " is of another kind of database than "
              + target.name()
              + " ("
              + target.spec().place()
              + "). Nothing was changed.",
          "Name one of the same kind.");
    }
    Path name = place.state().temporary("restore");
    Path file =
        name.resolveSibling(
            name.getFileName() + (place.atRest().isSealing() ? ".sql.zst.age" : ".sql.zst"));
    try {
      Optional<Refitting.Kept> kept = write(session, place, target, rows, file);
      return new RestoreSource(
          session,
          target,
          words,
          new Refitted(kept, ledgers),
          SavedCopy.open(file, place.atRest()),
          Optional.of(file));
    } catch (Refusal | IOException | RuntimeException e) {
      Files.deleteIfExists(file);
      throw e;
    }
  }

  private static Optional<Refitting.Kept> write(
      Session session, Workplace place, Copy target, Copy rows, Path file)
      throws Refusal, IOException {
    try (Progress progress = Progress.start(session, "reading " + rows.name(), rows.roughRows())) {
      if (rows.name().equals(target.name())) {
        place.restorePoints().save(rows.spec(), Refit.NONE, file, progress);
        return Optional.empty();
      }
      try (Refitting refitting =
          Refitting.keeping(
              rows,
              target,
              place.pair().model(),
              place.pair().addresses(),
              MaskedPeople.masking(place, rows.name(), target.name()))) {
        place.restorePoints().save(rows.spec(), refitting, file, progress);
        return Optional.of(refitting.kept());
      }
    }
  }

  /** The file that is loaded. */
  SavedCopy saved() {
    return saved;
  }

  /** When it was saved, as an ISO 8601 instant; empty for a file that does not say so. */
  String taken() {
    return temporary.isEmpty() || isOtherCopy() ? saved.taken() : "";
  }

  /** Tables of the copy that are not there. */
  List<String> missing() {
    return target.catalog().all().stream()
        .filter(table -> !table.table().name().equals(Catalog.LEDGER))
        .map(CatalogTable::realName)
        .filter(name -> !saved.tables().contains(name))
        .sorted()
        .toList();
  }

  /** What a person called it. */
  String words() {
    return words;
  }

  /** Whether it is the other copy as it is now, so that a base can be recorded afterwards. */
  boolean isOtherCopy() {
    return !refitted.ledgers().isEmpty();
  }

  /** What the target keeps of its own; empty where its own earlier state comes back. */
  Optional<Refitting.Kept> kept() {
    return refitted.kept();
  }

  /**
   * Records what the copy is now as the base.
   *
   * @return how many rows it has
   */
  long mark(Remade remade) throws Refusal, IOException {
    return remade.record(session, target, refitted.ledgers(), kept().orElseThrow().rows());
  }

  @Override
  public void close() throws IOException {
    if (temporary.isPresent()) {
      Files.deleteIfExists(temporary.get());
    }
  }
}
