package weftex.cli.workplace;

import java.io.IOException;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.compare.CopyMarks;
import weftex.store.compare.MadeAnew;
import weftex.store.copy.Copy;
import weftex.store.receipt.MergedRows;
import weftex.store.rows.Ledger;

/**
 * Keeps a new base from forgetting which rows of the two copies are one: merges gave them different
 * numbers, and a row of one number would be taken for another thing on the other copy.
 */
public final class KnownPairs {
  private KnownPairs() {}

  /**
   * Refuses, unless staging was made from live again, as its ledger or its rows tell.
   *
   * @param copies staging and live, in any order
   */
  public static void check(Workplace place, Copy one, Copy other) throws Refusal, IOException {
    Capture base;
    try {
      if (!Capture.isIn(place.bases().current())) {
        return;
      }
      base = place.bases().open(place.pair().site());
    } catch (Refusal e) {
      // A base that can't be read any more is what a new one is recorded for.
      return;
    }
    long apart = apart(place, one, other.name(), base) + apart(place, other, one.name(), base);
    boolean anew =
        apart == 0
            || CopyMarks.areOne(one, other)
            || ids(one).equals(ids(other))
            || isMadeAnew(place, one, other, base)
            || isMadeAnew(place, other, one, base);
    if (anew) {
      return;
    }
    throw new Refusal(
        Refusal.Kind.PROTECTED,
        apart
            + (apart == 1 ? " row has" : " rows have")
            + " different numbers on the two copies since they were merged, and a new base would forget which"
            + " belong together. Nothing was changed.",
        "Nothing needs to be recorded after an apply. To start over, make staging from live again, and"
            + " then record the base.");
  }

  private static boolean isMadeAnew(Workplace place, Copy copy, Copy from, Capture base)
      throws Refusal, IOException {
    return MadeAnew.isSo(copy, from, place.pair().model(), place.receipts(), base);
  }

  private static long apart(Workplace place, Copy copy, String otherName, Capture base)
      throws Refusal, IOException {
    CopyMarks marks = CopyMarks.of(copy, otherName, base);
    try (MergedRows merged = MergedRows.of(marks.since(), place.receipts(), false)) {
      return merged.renumbered();
    }
  }

  private static Set<String> ids(Copy copy) throws Refusal {
    return copy.ledger().stream().map(Ledger.Entry::receipt).collect(Collectors.toSet());
  }
}
