package weftex.store.compare;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.copy.Copy;
import weftex.store.receipt.MergedRows;
import weftex.store.receipt.Receipts;

/**
 * Rows of the two copies that merges know as one thing under different IDs.
 *
 * @param table without prefix
 * @param pairs how many
 * @param lone those of which one side is gone
 */
public record Twins(String table, int pairs, List<Lone> lone) {

  /**
   * A pair that does not hold any more.
   *
   * @param goneOn the copies that lack their row
   */
  public record Lone(BigInteger staging, BigInteger live, List<String> goneOn) {}

  /**
   * All twins, by table.
   *
   * @throws Refusal if a copy can't be asked, or a receipt is not as it was written
   */
  public static List<Twins> of(Copy staging, Copy live, Receipts receipts, Capture base)
      throws IOException, Refusal {
    Map<String, Map<BigInteger, BigInteger>> pairs = pairs(staging, live, receipts, base);
    List<Twins> twins = new ArrayList<>();
    for (Map.Entry<String, Map<BigInteger, BigInteger>> table : pairs.entrySet()) {
      Set<BigInteger> onStaging =
          staging.lookup().present(table.getKey(), table.getValue().keySet());
      Set<BigInteger> onLive = live.lookup().present(table.getKey(), table.getValue().values());
      List<Lone> lone = new ArrayList<>();
      table
          .getValue()
          .forEach(
              (here, there) -> {
                List<String> gone = new ArrayList<>();
                if (!onStaging.contains(here)) {
                  gone.add(staging.name());
                }
                if (!onLive.contains(there)) {
                  gone.add(live.name());
                }
                if (!gone.isEmpty()) {
                  lone.add(new Lone(here, there, gone));
                }
              });
      twins.add(new Twins(table.getKey(), table.getValue().size(), lone));
    }
    return twins;
  }

  /**
   * The IDs on live of rows of staging that merges know as one thing under different IDs, by table.
   *
   * @throws Refusal if a copy can't be asked, or a receipt is not as it was written
   */
  public static Map<String, Map<BigInteger, BigInteger>> pairs(
      Copy staging, Copy live, Receipts receipts, Capture base) throws IOException, Refusal {
    Map<String, Map<BigInteger, BigInteger>> pairs = new TreeMap<>();
    try (MergedRows into =
            MergedRows.of(CopyMarks.of(live, staging.name(), base).since(), receipts, false);
        MergedRows back =
            MergedRows.of(CopyMarks.of(staging, live.name(), base).since(), receipts, false)) {
      into.pairs().forEach((row, number) -> add(pairs, row.table(), row.number(), number));
      back.pairs().forEach((row, number) -> add(pairs, row.table(), number, row.number()));
    }
    return pairs;
  }

  private static void add(
      Map<String, Map<BigInteger, BigInteger>> pairs,
      String table,
      BigInteger onStaging,
      BigInteger onLive) {
    if (!onStaging.equals(onLive)) {
      pairs.computeIfAbsent(table, name -> new LinkedHashMap<>()).put(onStaging, onLive);
    }
  }
}
