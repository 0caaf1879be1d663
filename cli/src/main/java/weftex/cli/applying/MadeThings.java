package weftex.cli.applying;

import java.math.BigInteger;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import weftex.cli.result.ApplyReport;
import weftex.cli.result.ItemReport;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.row.RowName;
import weftex.store.changeset.ChangeSetFile;

/** The things that an apply made, or that an undo took back, as a person knows them. */
final class MadeThings {
  private static final int LISTED = 40;

  private MadeThings() {}

  /**
   * Those that an apply made, with the IDs that they got.
   *
   * @param renumbered rows that got another number than they have on the source
   */
  static ApplyReport.Things made(ChangeSetFile applied, Map<RowName, BigInteger> renumbered) {
    ItemReport.Gatherer gatherer = new ItemReport.Gatherer(LISTED);
    Map<List<String>, String> ids = new HashMap<>();
    for (Outline change : applied.outlines()) {
      if (isMade(applied, change)) {
        gatherer.add(applied.review().outcome(change));
        BigInteger id = change.fresh().map(renumbered::get).orElse(null);
        if (id != null && change.thing().part().isEmpty()) {
          ids.put(List.of(change.thing().kind(), change.thing().name()), id.toString());
        }
      }
    }
    return things(gatherer, ids);
  }

  /**
   * Those that an undo took back.
   *
   * @param keys of the changes that were, the key that their row had on the target
   */
  static ApplyReport.Things takenBack(ChangeSetFile applied, Map<Integer, String> keys) {
    ItemReport.Gatherer gatherer = new ItemReport.Gatherer(LISTED);
    Map<List<String>, String> ids = new HashMap<>();
    for (Outline change : applied.outlines()) {
      if (isMade(applied, change) && keys.containsKey(change.id())) {
        gatherer.add(applied.review().outcome(change).inverse());
        String key = keys.get(change.id());
        if (change.fresh().isPresent()
            && change.thing().part().isEmpty()
            && !key.equals(change.keyText())) {
          ids.put(List.of(change.thing().kind(), change.thing().name()), key);
        }
      }
    }
    return things(gatherer, ids);
  }

  private static boolean isMade(ChangeSetFile applied, Outline change) {
    return applied.review().standing(change.id()) == Review.Standing.MADE;
  }

  private static ApplyReport.Things things(
      ItemReport.Gatherer gatherer, Map<List<String>, String> ids) {
    return new ApplyReport.Things(
        gatherer.items().stream()
            .map(
                item ->
                    new ApplyReport.Made(
                        item, ids.getOrDefault(List.of(item.kind(), item.name()), "")))
            .toList(),
        gatherer.beyond());
  }
}
