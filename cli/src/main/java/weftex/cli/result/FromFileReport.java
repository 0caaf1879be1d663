package weftex.cli.result;

import java.util.List;
import weftex.store.compare.Likeness;

/**
 * A base that was recorded from a backup.
 *
 * @param file the backup
 * @param of the copy that it is of
 * @param other the other copy, which was made of it
 * @param marked when it was recorded, as an ISO 8601 instant
 * @param replaces whether there was a base before
 * @param tables how many were recorded
 * @param rows how many rows
 * @param leftOut tables that are left out as noise
 * @param likeness how the other copy differs from it
 */
public record FromFileReport(
    String file,
    String of,
    String other,
    String marked,
    boolean replaces,
    int tables,
    long rows,
    List<String> leftOut,
    Likeness likeness) {

  /** How many of the rows the other copy still has as they are in the backup. */
  public long alike() {
    return rows - likeness.apart().stream().mapToLong(d -> d.different() + d.onlyRecorded()).sum();
  }
}
