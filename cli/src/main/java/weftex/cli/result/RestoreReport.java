package weftex.cli.result;

import java.util.Map;
import weftex.store.dump.Restoring;

/**
 * What became of a restore.
 *
 * @param does {@code restored}, {@code back} or {@code removed}
 * @param file where it came from; empty for the tables that were set aside
 * @param taken when that was saved, as an ISO 8601 instant
 * @param since what had come to the copy since and went with it, by table
 */
public record RestoreReport(
    String does,
    String copy,
    String file,
    String taken,
    long tables,
    long rows,
    Map<String, Restoring.Since> since) {}
