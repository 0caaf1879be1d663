package weftex.cli.command;

import java.util.List;
import java.util.Map;
import weftex.store.apply.Drift;

/** What became of it: {@code applied}, {@code already-applied} or {@code drifted}. */
public record ApplyReport(
    String outcome,
    String file,
    String from,
    String into,
    String receipt,
    String at,
    long adds,
    long updates,
    long removes,
    Map<String, String> renumbered,
    List<Drift> drifts,
    long moreDrifts,
    List<Drift> altered) {}
