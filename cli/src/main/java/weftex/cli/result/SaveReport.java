package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.List;
import java.util.Map;

/**
 * A copy that was saved.
 *
 * @param argument how a restore is told which file it is; empty for the newest
 * @param rows by table
 * @param left what was not saved, in words
 * @param bytes how large the file is
 * @param seconds how long it took
 */
public record SaveReport(
    String copy,
    String place,
    String file,
    @JsonIgnore String argument,
    Map<String, Long> rows,
    List<String> left,
    long bytes,
    double seconds) {

  /** How many rows there are in all. */
  public long all() {
    return rows.values().stream().mapToLong(Long::longValue).sum();
  }
}
