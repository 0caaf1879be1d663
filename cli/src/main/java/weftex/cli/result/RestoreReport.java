package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.store.dump.Restoring;

/**
 * What became of a restore.
 *
 * @param does {@code restored}, {@code remade}, {@code emptied}, {@code back} or {@code removed}
 * @param file where it came from, a file or the other copy; empty for the tables that were set
 *     aside
 * @param taken when that was saved, as an ISO 8601 instant
 * @param database where it was put instead of the copy's place; empty for that place
 * @param kept what the copy kept of its own; empty if it is its own earlier state
 * @param base how many rows the new base has; empty if none was recorded
 * @param seconds how long loading and switching took
 */
public record RestoreReport(
    String does,
    String copy,
    String file,
    String taken,
    @JsonUnwrapped Contents contents,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) String database,
    @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<Kept> kept,
    @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<Long> base,
    double seconds) {

  /** For what reads no file. */
  public static RestoreReport of(String does, String copy) {
    return new RestoreReport(
        does, copy, "", "", Contents.NONE, "", Optional.empty(), Optional.empty(), 0);
  }

  /** The same with the base that was recorded afterwards. */
  public RestoreReport withBase(long recorded) {
    return new RestoreReport(
        does, copy, file, taken, contents, database, kept, Optional.of(recorded), seconds);
  }

  /**
   * How much there is.
   *
   * @param since what had come to the copy since and went with it, by table
   */
  public record Contents(long tables, long rows, Map<String, Restoring.Since> since) {
    static final Contents NONE = new Contents(0, 0, Map.of());
  }

  /**
   * What a copy kept of its own when it was made from the other one.
   *
   * @param settings rows that belong to their copy
   * @param secrets accounts whose passwords it kept
   * @param accounts people that it alone has
   * @param emptied tables whose rows the site makes anew
   */
  public record Kept(long settings, long secrets, long accounts, List<String> emptied) {}
}
