package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.render.TidyText;
import weftex.cli.result.TidyReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.dump.RestorePoints;
import weftex.store.dump.Restorer;
import weftex.store.dump.ScratchMark;
import weftex.store.dump.SqlFile;
import weftex.store.state.FileClaim;
import weftex.store.tidy.InTheClear;
import weftex.store.tidy.Leftover;
import weftex.store.tidy.Leftovers;
import weftex.store.tidy.Uncompressed;

/** Removes what nobody needs any more. */
public final class TidyCommand implements Command {
  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("yes")
            .desc(
                "remove them, compress what is old, and encrypt what is to be sealed (default: only list"
                    + " it)")
            .get());
    return options;
  }

  @Override
  public String arguments() {
    return "[options]";
  }

  @Override
  public List<String> examples() {
    return List.of("weftex tidy", "weftex tidy --yes");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    // While a base is recorded or a draft is written nobody knows what will be needed.
    FileClaim mark = place.hold("mark", "recording the base");
    try {
      FileClaim draft = place.hold("draft", "drafting");
      FileClaim restore = place.hold("restore", "restoring a copy");
      try {
        return tidied(line, session, place);
      } finally {
        restore.close();
        draft.close();
      }
    } finally {
      mark.close();
    }
  }

  private static Result tidied(CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    Leftovers.Limits limits = place.pair().applying().tidy();
    List<Leftover> all =
        new ArrayList<>(
            new Leftovers(
                    place.state(),
                    place.bases(),
                    place.receipts(),
                    limits,
                    session.clock().instant())
                .all());
    addPoints(place, all);
    boolean removes = line.hasOption("yes");
    for (Leftover leftover : removes ? all : List.<Leftover>of()) {
      leftover.remove();
    }
    InTheClear clear = place.inTheClear();
    InTheClear.Found unsealed = clear.all();
    if (removes) {
      clear.seal(unsealed);
    }
    TidyReport.Compressed compressed = compressed(place, all, removes);
    List<CopySpec> scratches = scratches(line, place);
    for (CopySpec scratch : removes ? scratches : List.<CopySpec>of()) {
      SqlFile.discard(scratch);
    }
    return report(place, all, removes, unsealed, compressed, scratches);
  }

  private static Result report(
      Workplace place,
      List<Leftover> all,
      boolean removes,
      InTheClear.Found unsealed,
      TidyReport.Compressed compressed,
      List<CopySpec> scratches)
      throws Refusal, IOException {
    Leftovers.Limits limits = place.pair().applying().tidy();
    TidyReport report =
        new TidyReport(
            removes,
            limits.days(),
            limits.keep(),
            all.stream()
                .map(
                    one ->
                        new TidyReport.Thing(
                            one.kind().words(), place.shown(one.path()), one.at(), one.bytes()))
                .toList(),
            scratches.stream().map(CopySpec::place).toList(),
            aside(place),
            new TidyReport.Clear(
                unsealed.files().stream().map(place::shown).toList(),
                unsealed.drafts().stream().map(place::shown).toList()),
            compressed);
    return new Result(ExitStatus.DONE, report, page -> TidyText.print(page, report));
  }

  private static void addPoints(Workplace place, List<Leftover> all) throws Refusal, IOException {
    RestorePoints points = place.restorePoints();
    for (String copy : List.of("staging", "live")) {
      for (RestorePoints.Point point : points.beyond(copy, place.pair().restorePoints().limits())) {
        all.add(
            new Leftover(Leftover.Kind.RESTORE_POINT, point.file(), point.taken(), point.bytes()));
      }
    }
  }

  /**
   * What is text and old, which is compressed if that is asked for.
   *
   * @param going what goes, and need not be compressed before
   */
  private static TidyReport.Compressed compressed(
      Workplace place, List<Leftover> going, boolean really) throws Refusal, IOException {
    Set<Path> gone = going.stream().map(Leftover::path).collect(Collectors.toSet());
    List<String> files = new ArrayList<>();
    long before = 0;
    long after = 0;
    Uncompressed uncompressed = place.uncompressed();
    for (Path file : uncompressed.all()) {
      if (!gone.contains(file)) {
        long size = Files.size(file);
        Optional<Long> packed = really ? uncompressed.compress(file) : Optional.of(0L);
        if (packed.isPresent()) {
          files.add(place.shown(file));
          before += size;
          after += packed.get();
        }
      }
    }
    return new TidyReport.Compressed(files, before, after);
  }

  /** Databases that a run left which was killed; one that can't be reached is passed over. */
  private static List<CopySpec> scratches(CommandLine line, Workplace place) throws Refusal {
    List<CopySpec> left = new ArrayList<>();
    for (CopySpec scratch : place.scratches(line)) {
      Optional<Path> of =
          Stream.of(place.pair().staging(), place.pair().live())
              .filter(copy -> isLoadedInto(scratch, copy))
              .flatMap(copy -> SqlFile.of(copy).stream())
              .map(SqlFile::file)
              .findFirst();
      try {
        if (ScratchMark.isLeftOver(scratch, of)) {
          left.add(scratch);
        }
      } catch (Refusal e) {
        // Mostly it is not there.
      }
    }
    return left;
  }

  private static boolean isLoadedInto(CopySpec scratch, CopySpec copy) {
    return copy instanceof CopySpec.Server of
        && scratch instanceof CopySpec.Server at
        && copy.origin().isPresent()
        && of.database().equals(at.database());
  }

  /** Copies that have tables set aside; one that can't be reached is passed over. */
  private static List<String> aside(Workplace place) throws Refusal {
    List<String> aside = new ArrayList<>();
    for (CopySpec spec : List.of(place.pair().staging(), place.pair().live())) {
      if (spec.origin().isPresent()) {
        continue;
      }
      try (Restorer restorer = Restorer.of(spec)) {
        if (restorer.hasAside()) {
          aside.add(spec.name());
        }
      } catch (Refusal e) {
        // 'weftex check' says what is wrong with it.
      }
    }
    return aside;
  }
}
