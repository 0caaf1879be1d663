package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.cli.session.Took;

/**
 * A copy that was saved.
 *
 * @param restore the command that puts it back; empty for a whole database, which none does
 * @param rows by table
 * @param left what was not saved, in words
 * @param took how long it took, and how large the file is
 */
public record SaveReport(
    String copy,
    String place,
    String file,
    @JsonIgnore Optional<String> restore,
    Map<String, Long> rows,
    List<String> left,
    @JsonUnwrapped Took took) {

  /** How many rows there are in all. */
  public long all() {
    return rows.values().stream().mapToLong(Long::longValue).sum();
  }
}
