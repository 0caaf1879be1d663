package weftex.cli.result;

import java.util.List;
import weftex.store.compare.WorkedOut;

/**
 * A base that was worked out.
 *
 * @param marked when, as an ISO 8601 instant
 * @param parted the time up to which changes count as those of both copies, as the site writes
 *     times; empty if nothing tells it
 * @param said whether a person said that time
 * @param recorded whether it is the base now
 * @param replaces whether there was a base before
 * @param rows how many it has
 * @param tables what was found, by table
 */
public record WorkedOutReport(
    String marked,
    String parted,
    boolean said,
    boolean recorded,
    boolean replaces,
    long rows,
    List<WorkedOut.Found> tables) {

  public long questions() {
    return tables.stream().mapToLong(WorkedOut.Found::questions).sum();
  }
}
