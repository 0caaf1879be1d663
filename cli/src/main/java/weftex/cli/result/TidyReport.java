package weftex.cli.result;

import java.util.List;

/**
 * What was or would be removed.
 *
 * @param removed whether it is gone
 * @param days how old things may be that stay
 * @param keep how many of the newest stay however old they are
 * @param things in the order of their kinds, oldest first
 * @param scratch databases into which files were loaded that nobody reads any more
 * @param aside copies of which a restore has set tables aside
 * @param clear what is in the clear, though the state folder is to be sealed
 * @param compressed what takes less room compressed
 */
public record TidyReport(
    boolean removed,
    int days,
    int keep,
    List<Thing> things,
    List<String> scratch,
    List<String> aside,
    Clear clear,
    Compressed compressed) {

  /**
   * Text that is old.
   *
   * @param files what was or would be compressed
   * @param before how many bytes they took
   * @param after how many they take now; 0 as long as they are not compressed
   */
  public record Compressed(List<String> files, long before, long after) {}

  /**
   * What was written before the folder was to be sealed.
   *
   * @param files what was or would be encrypted
   * @param drafts what can only be drafted again
   */
  public record Clear(List<String> files, List<String> drafts) {}

  /**
   * One thing.
   *
   * @param at since when it is there, as an ISO 8601 instant
   */
  public record Thing(String kind, String file, String at, long bytes) {}

  /** How large they are together. */
  public long bytes() {
    return things.stream().mapToLong(Thing::bytes).sum();
  }
}
