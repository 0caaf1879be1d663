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
import weftex.cli.result.TidyReport;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.dump.RestorePoints;
import weftex.store.dump.Restorer;
import weftex.store.dump.ScratchMark;
import weftex.store.dump.SqlFile;
import weftex.store.tidy.Leftover;
import weftex.store.tidy.Uncompressed;

/** What can be tidied. */
final class TidyFindings {

  private TidyFindings() {}

  static void addPoints(Workplace place, List<Leftover> all) throws Refusal, IOException {
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
  static TidyReport.Compressed compressed(Workplace place, List<Leftover> going, boolean really)
      throws Refusal, IOException {
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
  static List<CopySpec> scratches(CommandLine line, Workplace place) throws Refusal {
    List<CopySpec> left = new ArrayList<>();
    for (CopySpec scratch : place.scratches(line)) {
      Optional<Path> of =
          Stream.of(place.pair().staging(), place.pair().live())
              .filter(copy -> TidyCommand.isLoadedInto(scratch, copy))
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

  /** Copies that have tables set aside; one that can't be reached is passed over. */
  static List<String> aside(Workplace place) throws Refusal {
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
