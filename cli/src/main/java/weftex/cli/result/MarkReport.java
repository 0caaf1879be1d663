package weftex.cli.result;

import java.util.List;
import java.util.Optional;
import weftex.cli.session.Took;
import weftex.store.compare.Likeness;
import weftex.store.file.FileRecord;

/**
 * What {@code mark} found and did.
 *
 * @param from the copy that was recorded
 * @param other the copy that it was compared with
 * @param place where the recorded copy is
 * @param marked when, as an ISO 8601 instant
 * @param recorded whether it is the base now
 * @param replaces whether there was a base before
 * @param tables how many were recorded
 * @param rows how many rows
 * @param leftOut tables that are left out as noise
 * @param files those that rows name; empty where nobody looked
 * @param filesProblem why nobody looked, as a clause; empty if nobody asked for it
 * @param likeness how the other copy differs from it
 * @param took how long it took, and how large what was recorded is
 */
public record MarkReport(
    String from,
    String other,
    String place,
    String marked,
    boolean recorded,
    boolean replaces,
    int tables,
    long rows,
    List<String> leftOut,
    Optional<FileRecord.Recorded> files,
    String filesProblem,
    Likeness likeness,
    Took took) {}
