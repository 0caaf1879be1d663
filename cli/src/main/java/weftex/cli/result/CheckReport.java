package weftex.cli.result;

import java.util.List;
import java.util.Optional;
import weftex.store.compare.Twins;

/**
 * What was found.
 *
 * @param problems what must be mended before anything is merged
 * @param warnings what is worth knowing
 * @param files where the copies' files are, or why they are not looked at, as a sentence; empty if
 *     weftex.yaml names no folder
 * @param base what the base in force was recorded of and when; empty if there is none
 * @param twins rows that merges know under different IDs; empty if nobody asked
 */
public record CheckReport(
    List<CopyFound> copies,
    List<TableFound> tables,
    List<RolesReport.Unknown> unknown,
    List<String> problems,
    List<String> warnings,
    String files,
    Optional<String> base,
    Optional<List<Twins>> twins) {

  /** What one copy is. */
  public record CopyFound(
      String name,
      String place,
      String server,
      String line,
      String prefix,
      int tables,
      int otherTables) {}

  /** A table on both sides; a count of -1 says that it is not there. */
  public record TableFound(String name, String role, long staging, long live, String note) {}
}
