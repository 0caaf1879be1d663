package weftex.cli.result;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.change.Action;
import weftex.core.change.RowChange;
import weftex.core.file.FilePlan;
import weftex.core.file.FileRows;
import weftex.core.row.Value;

/**
 * The files that go with changes of rows.
 *
 * @param bytes how many are brought
 * @param conflicts how many need a decision
 * @param renamed files that get another name, since another file has theirs
 * @param missing files that rows name and the source does not have
 * @param left files that do not travel, and why
 * @param problem why files are not looked at, as a clause; empty if they are, or nobody asked
 */
public record FilesReport(
    long adds,
    long updates,
    long removes,
    long bytes,
    long conflicts,
    Map<String, String> renamed,
    List<String> missing,
    Map<String, String> left,
    String problem) {

  /** Of files that were found, or not looked at. */
  public static FilesReport of(FilePlan.Files files, String problem) {
    long[] counts = new long[3];
    long conflicts = 0;
    Map<String, String> renamed = new TreeMap<>();
    for (RowChange change : files.changes()) {
      String path = change.keyText();
      counts[change.action().ordinal()]++;
      conflicts += change.conflicts().isEmpty() ? 0 : 1;
      Value from = change.drafted().get(FileRows.FROM);
      if (from != null && change.action() == Action.ADD) {
        renamed.put(from.display(), path);
      }
    }
    return new FilesReport(
        counts[0],
        counts[1],
        counts[2],
        files.bytes(),
        conflicts,
        renamed,
        files.missing(),
        files.refused(),
        problem);
  }

  /** How many files. */
  public long all() {
    return adds + updates + removes;
  }
}
