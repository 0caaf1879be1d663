package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.util.List;
import java.util.Optional;

/**
 * Everything that was done, newest first, and the bases that were recorded.
 *
 * @param bases the one in force first, then the earlier ones, newest first
 * @param restorePoints saved copies that are still there, newest first
 */
public record HistoryReport(
    List<Event> events, List<Base> bases, List<RestorePoint> restorePoints) {

  /**
   * A saved copy.
   *
   * @param at when it was saved, as an ISO 8601 instant
   */
  public record RestorePoint(String copy, String at, String file, long bytes) {}

  /**
   * A base.
   *
   * @param of the copy that was recorded
   * @param at when, as an ISO 8601 instant
   * @param inForce whether comparisons use it
   * @param bytes how much it takes on the disk
   */
  public record Base(String of, String at, boolean inForce, long bytes) {}

  /**
   * One apply or undo.
   *
   * @param seconds how long it took; empty if it could not say itself when it ended
   * @param bytes how large its receipt is
   */
  public record Event(
      @JsonUnwrapped Run run,
      @JsonUnwrapped Contents contents,
      String outcome,
      @JsonUnwrapped ApplyReport.Counts counts,
      @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<Double> seconds,
      long bytes) {}

  /**
   * Who ran what, and when.
   *
   * @param kind {@code apply} or {@code undo}
   * @param undoes for an undo: the receipt that it takes back; else empty
   * @param part whether it takes back chosen changes alone
   */
  public record Run(
      String receipt,
      String kind,
      String undoes,
      boolean part,
      String from,
      String into,
      String at,
      String by,
      List<String> approvedBy) {}

  /**
   * What was in it.
   *
   * @param things the first of the things that it made or took back, as a person knows them; none
   *     where the change set is not here any more
   */
  public record Contents(String changeSet, String file, List<String> things) {}
}
