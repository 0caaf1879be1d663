package weftex.cli.command;

import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.copy.Copy;
import weftex.store.copy.Ledger;
import weftex.store.receipt.MergedRows;

/**
 * Keeps a new base from forgetting which rows of the two copies are one: merges gave them different
 * numbers, and a row of one number would be taken for another thing on the other copy.
 */
final class KnownPairs {
  private KnownPairs() {}

  /**
   * Refuses, unless staging was made from live again, and so has live's ledger.
   *
   * @param copies staging and live, in any order
   */
  static void check(Workplace place, Copy one, Copy other) throws Refusal, IOException {
    Instant since;
    try {
      if (!Capture.isIn(place.bases().current())) {
        return;
      }
      since = Instant.parse(Capture.open(place.bases().current(), place.pair().site()).marked());
    } catch (Refusal e) {
      // A base that can't be read any more is what a new one is recorded for.
      return;
    }
    long apart = 0;
    for (Copy copy : List.of(one, other)) {
      try (MergedRows merged = MergedRows.on(copy, place.receipts(), since)) {
        apart += merged.renumbered();
      }
    }
    if (apart == 0 || ids(one).equals(ids(other))) {
      return;
    }
    throw new Refusal(
        Refusal.Kind.PROTECTED,
        apart
            + (apart == 1 ? " row has" : " rows have")
            + " different numbers on the two copies since they were merged, and a new base would forget which"
            + " belong together. Nothing was changed.",
        "Nothing needs to be recorded after an apply. To start anew, make staging from live again, with"
            + " its table weftex_ledger, and then record the base.");
  }

  private static Set<String> ids(Copy copy) throws Refusal {
    return copy.ledger().stream().map(Ledger.Entry::receipt).collect(Collectors.toSet());
  }
}
