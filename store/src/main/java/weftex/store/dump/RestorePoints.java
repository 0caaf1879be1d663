package weftex.store.dump;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.LongConsumer;
import java.util.stream.Stream;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;

/**
 * The saved copies of a site in a folder: {@code SITE-COPY-TIME.sql.zst}, with {@code .age} behind
 * it if they are encrypted.
 */
public final class RestorePoints {
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss", Locale.ROOT).withZone(ZoneOffset.UTC);
  private static final String SUFFIX = ".sql.zst";

  private final Path folder;
  private final String site;
  private final String tool;
  private final Clock clock;
  private final AtRest atRest;

  public RestorePoints(Path folder, String site, String tool, Clock clock, AtRest atRest) {
    this.folder = folder;
    this.site = site;
    this.tool = tool;
    this.clock = clock;
    this.atRest = atRest;
  }

  /**
   * A saved copy in the folder.
   *
   * @param taken when, as an ISO 8601 instant
   * @param bytes how large the file is
   */
  public record Point(Path file, String copy, String taken, long bytes) {}

  /**
   * Which points stay: the newest, by number, age and size. The last one of a copy always does.
   *
   * @param keep how many of a copy
   * @param days how old they may be; 0 for any age
   * @param bytes how large they may be together; 0 for any size
   */
  public record Limits(int keep, int days, long bytes) {}

  /** A file for a copy that is saved now. */
  public Path newFile(String copy) {
    String name = named(site + "-" + copy) + "-" + TIME.format(clock.instant());
    String suffix = atRest.isSealing() ? SUFFIX + CopySaver.SEALED : SUFFIX;
    Path file = folder.resolve(name + suffix);
    for (int next = 2; Files.exists(file); next++) {
      file = folder.resolve(name + "-" + next + suffix);
    }
    return file;
  }

  /**
   * Saves a copy to a file, which is encrypted if its name says so.
   *
   * @param progress is told how many rows are written
   */
  public CopySaver.Saved save(CopySpec copy, Path file, LongConsumer progress)
      throws Refusal, IOException {
    return save(copy, Refit.NONE, file, progress);
  }

  /** Saves a copy to a file as it takes another copy's place. */
  public CopySaver.Saved save(CopySpec copy, Refit refit, Path file, LongConsumer progress)
      throws Refusal, IOException {
    if (file.startsWith(folder)) {
      Files0600.createFolder(folder);
    }
    return CopySaver.save(
        copy,
        refit,
        new CopySaver.Place(file, atRest),
        new CopySaver.About(site, clock.instant().toString(), tool),
        progress);
  }

  /** The points of this site, newest first; other files are passed over. */
  public List<Point> all() throws IOException {
    List<Point> points = new ArrayList<>();
    for (Path file : files()) {
      try {
        SavedCopy saved = SavedCopy.open(file, atRest);
        if (saved.site().equals(site)) {
          points.add(new Point(file, saved.copy(), saved.taken(), Files.size(file)));
        }
      } catch (Refusal e) {
        // Whoever names it is told what is wrong with it.
      }
    }
    points.sort(Comparator.comparing(Point::taken).thenComparing(Point::file).reversed());
    return points;
  }

  private List<Path> files() throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> listed = Files.list(folder)) {
      return listed.filter(this::mayBeOne).sorted().toList();
    }
  }

  /** The file that takes the place of one in the clear when it is encrypted; empty for others. */
  public Optional<Path> sealed(Path file) {
    return file.startsWith(folder) && file.toString().endsWith(SUFFIX)
        ? Optional.of(file.resolveSibling(file.getFileName() + CopySaver.SEALED))
        : Optional.empty();
  }

  /** What another site encrypted in the same folder can't be opened here. */
  private boolean mayBeOne(Path file) {
    String name = file.getFileName().toString();
    return name.endsWith(SUFFIX)
        || name.endsWith(SUFFIX + CopySaver.SEALED) && name.startsWith(named(site + "-"));
  }

  private static String named(String words) {
    return words.replaceAll("[^\\p{L}\\p{N}._-]", "_");
  }

  /**
   * Removes what is beyond the limits.
   *
   * @return what was removed, newest first
   */
  public List<Point> tidy(String copy, Limits limits) throws IOException {
    List<Point> removed = beyond(copy, limits);
    for (Point point : removed) {
      Files.deleteIfExists(point.file());
    }
    return removed;
  }

  /** What is beyond the limits, newest first. */
  public List<Point> beyond(String copy, Limits limits) throws IOException {
    List<Point> beyond = new ArrayList<>();
    int kept = 0;
    long bytes = 0;
    for (Point point : all()) {
      if (!point.copy().equals(copy)) {
        continue;
      }
      boolean goes =
          kept >= limits.keep()
              || limits.bytes() > 0 && bytes + point.bytes() > limits.bytes()
              || limits.days() > 0 && age(point).compareTo(Duration.ofDays(limits.days())) > 0;
      if (kept > 0 && goes) {
        beyond.add(point);
      } else {
        kept++;
        bytes += point.bytes();
      }
    }
    return beyond;
  }

  private Duration age(Point point) {
    try {
      return Duration.between(Instant.parse(point.taken()), clock.instant());
    } catch (DateTimeParseException e) {
      return Duration.ZERO;
    }
  }
}
