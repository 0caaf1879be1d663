package weftex.cli.command;

import java.math.BigInteger;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import weftex.cli.result.ApplyReport;
import weftex.cli.result.ItemReport;
import weftex.core.changeset.Outline;
import weftex.core.changeset.Review;
import weftex.core.row.RowName;
import weftex.store.changeset.ChangeSetFile;

/** The things that an apply made, with the IDs that they got. */
record MadeThings(List<ApplyReport.Made> things, long beyond) {
  private static final int LISTED = 40;
  static final MadeThings NONE = new MadeThings(List.of(), 0);

  /**
   * Gathers them.
   *
   * @param file the applied change set
   * @param renumbered rows that got another number than they have on the source
   */
  static MadeThings of(ChangeSetFile reviewed, Map<RowName, BigInteger> renumbered) {
    ItemReport.Gatherer gatherer = new ItemReport.Gatherer(LISTED);
    Map<List<String>, String> ids = new HashMap<>();
    Review review = reviewed.review();
    for (Outline change : reviewed.outlines()) {
      if (review.standing(change.id()) == Review.Standing.MADE) {
        gatherer.add(change);
        boolean itself = change.thing().part().isEmpty();
        BigInteger id = change.fresh().map(renumbered::get).orElse(null);
        if (itself && id != null) {
          ids.put(List.of(change.thing().kind(), change.thing().name()), id.toString());
        }
      }
    }
    List<ApplyReport.Made> things =
        gatherer.items().stream()
            .map(
                item ->
                    new ApplyReport.Made(
                        item, ids.getOrDefault(List.of(item.kind(), item.name()), "")))
            .toList();
    return new MadeThings(things, gatherer.beyond());
  }
}
