package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.util.List;
import java.util.Optional;
import weftex.cli.session.Took;
import weftex.store.compare.Likeness;
import weftex.store.file.FileRecord;

/**
 * What {@code mark} found and did.
 *
 * @param files those that rows name; empty where nobody looked
 * @param filesProblem why nobody looked, as a clause; empty if nobody asked for it
 * @param likeness how the other copy differs from it
 * @param took how long it took, and how large what was recorded is
 */
public record MarkReport(
    @JsonUnwrapped Copies copies,
    @JsonUnwrapped Base base,
    @JsonUnwrapped Contents contents,
    Optional<FileRecord.Recorded> files,
    String filesProblem,
    Likeness likeness,
    Took took) {

  /**
   * The copies.
   *
   * @param from the one that was recorded
   * @param other the one that it was compared with
   * @param place where the recorded one is
   */
  public record Copies(String from, String other, String place) {}

  /**
   * The base.
   *
   * @param marked when, as an ISO 8601 instant
   * @param recorded whether it is the base now
   * @param replaces whether there was one before
   */
  public record Base(String marked, boolean recorded, boolean replaces) {}

  /**
   * What is in it.
   *
   * @param tables how many were recorded
   * @param rows how many rows
   * @param leftOut tables that are left out as noise
   */
  public record Contents(int tables, long rows, List<String> leftOut) {}
}
