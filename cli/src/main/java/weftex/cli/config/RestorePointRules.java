package weftex.cli.config;

import java.nio.file.Path;
import java.util.Optional;
import weftex.store.dump.RestorePoints;

/**
 * What weftex.yaml says of restore points.
 *
 * @param beforeApply whether live is saved before each apply
 * @param folder where they are; empty for the state folder
 * @param limits which of them stay
 */
public record RestorePointRules(
    boolean beforeApply, Optional<Path> folder, RestorePoints.Limits limits) {
  private static final int KEPT = 5;
  private static final double GIGABYTE = 1e9;

  /**
   * Reads them.
   *
   * @param base the folder of weftex.yaml
   * @throws IllegalArgumentException with what is wrong, as a sentence without its end
   */
  static RestorePointRules of(PairFile said, Path base) {
    PairFile.RestorePointsEntry entry =
        said.keeping().restorePoints() == null
            ? new PairFile.RestorePointsEntry(null, null, null, null, null)
            : said.keeping().restorePoints();
    int keep = entry.keep() == null ? KEPT : entry.keep();
    int days = entry.days() == null ? 0 : entry.days();
    double gigabytes = entry.gigabytes() == null ? 0 : entry.gigabytes();
    if (keep < 1) {
      throw new IllegalArgumentException("'keep' of 'restore-points' must be 1 or more");
    }
    if (days < 0 || gigabytes < 0) {
      throw new IllegalArgumentException(
          "'days' and 'gigabytes' of 'restore-points' can't be below 0");
    }
    return new RestorePointRules(
        Boolean.TRUE.equals(entry.beforeApply()),
        Optional.ofNullable(entry.folder()).map(folder -> base.resolve(folder).normalize()),
        new RestorePoints.Limits(keep, days, (long) (gigabytes * GIGABYTE)));
  }
}
