package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import weftex.cli.result.ApplyReport;
import weftex.cli.result.HistoryReport;
import weftex.cli.workplace.Workplace;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.signoff.Approval;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.receipt.Receipt;
import weftex.store.state.Files0600;
import weftex.store.state.StateFolder;

/** What is said of an apply or undo. */
final class HistoryEvents {

  private static final double MILLIS = 1e3;

  /** A larger change set is not read only to name its things. */
  private static final long LARGEST_READ = 8_000_000;

  private HistoryEvents() {}

  static HistoryReport.Event event(Workplace place, Receipt r, String outcome)
      throws Refusal, IOException {
    return new HistoryReport.Event(
        new HistoryReport.Run(
            r.id(),
            r.kind(),
            r.undoes().orElse(""),
            r.part(),
            r.from(),
            r.into(),
            r.at(),
            r.by(),
            r.approvals().stream().map(Approval::by).toList()),
        new HistoryReport.Contents(r.changeSet(), r.file(), things(place, r)),
        outcome,
        new ApplyReport.Counts(r.adds(), r.updates(), r.removes()),
        r.took().map(took -> took.toMillis() / MILLIS),
        Files0600.size(place.receipts().file(r.id())));
  }

  /** What a receipt is about, as its change set tells. */
  static List<String> things(Workplace place, Receipt receipt) throws IOException {
    Path file = StateFolder.kept(place.state().changeSets().resolve(receipt.file()));
    boolean tells =
        !receipt.part()
            && Files.isRegularFile(file)
            && ChangeSetFile.weight(file, place.keys()) <= LARGEST_READ;
    if (!tells) {
      return List.of();
    }
    try {
      ChangeSetFile set = ChangeSetFile.read(file, place.keys());
      if (!set.contents().draft().equals(receipt.changeSet())) {
        return List.of();
      }
      return set.outlines().stream()
          .filter(change -> set.review().standing(change.id()) == Review.Standing.MADE)
          .flatMap(change -> change.item().stream())
          .filter(item -> item.part().isEmpty())
          .map(Item::words)
          .distinct()
          .toList();
    } catch (Refusal e) {
      // Altered, or of another version: the receipt stands without it.
      return List.of();
    }
  }
}
