package weftex.store.compare;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.copy.Copy;
import weftex.store.receipt.MergedRows;
import weftex.store.receipt.Receipts;
import weftex.store.rows.Ledger;
import weftex.store.rows.Snapshot;

/** What merges since the base settled, on either copy, as their ledgers and the receipts tell. */
final class EarlierMerges implements AutoCloseable {
  static final EarlierMerges NONE = new EarlierMerges(List.of());

  /** The target first. */
  private final List<OnCopy> copies;

  /**
   * One copy.
   *
   * @param standing how its ledger stands to the base
   * @param proven whether that is certain
   * @param rows what merges into it settled
   */
  private record OnCopy(
      String name, CopyMarks.Standing standing, boolean proven, MergedRows rows) {}

  private EarlierMerges(List<OnCopy> copies) {
    this.copies = copies;
  }

  /**
   * @param asksAgain whether what people decided for the target's side is open again
   * @throws Refusal if a copy was made anew from the other one since the base was recorded
   */
  static EarlierMerges of(
      Copy source, Copy target, Capture base, Receipts receipts, boolean asksAgain)
      throws Refusal, IOException {
    CopyMarks ofTarget = CopyMarks.of(target, source.name(), base);
    CopyMarks ofSource = CopyMarks.of(source, target.name(), base);
    checkStanding(ofTarget, target.name(), source.name());
    checkStanding(ofSource, source.name(), target.name());
    return new EarlierMerges(
        List.of(
            of(target, ofTarget, MergedRows.of(ofTarget.since(), receipts, asksAgain)),
            of(source, ofSource, MergedRows.of(ofSource.since(), receipts, false))));
  }

  private static OnCopy of(Copy copy, CopyMarks marks, MergedRows rows) {
    return new OnCopy(copy.name(), marks.standing(), marks.isProven(), rows);
  }

  /** A copy that was recreated from the other has the other's IDs, which the base would misread. */
  private static void checkStanding(CopyMarks marks, String copy, String other) throws Refusal {
    if (marks.standing() == CopyMarks.Standing.OTHERS) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          copy
              + " was recreated from "
              + other
              + " since the base was recorded: it has "
              + other
              + "'s ledger and IDs, and by this base its rows would be taken for others. Nothing was changed.",
          "Record a new base with 'weftex mark', which says if the copies differ already.");
    }
  }

  /**
   * The same where no ledger came along to tell.
   *
   * @throws Refusal if one copy was made anew from the other
   */
  void checkLikeness(List<TableModel> compared, Snapshot source, Snapshot target)
      throws Refusal, IOException {
    if (!isAny()) {
      return;
    }
    Map<String, TableModel> models =
        compared.stream().collect(Collectors.toMap(m -> m.table().name(), m -> m));
    String ofTarget = copies.get(0).name();
    String ofSource = copies.get(1).name();
    if (!copies.get(1).proven()
        && new MadeAnew(models, source, target).isSo(onTarget(), onSource())) {
      throw MadeAnew.refusal(ofSource, ofTarget);
    }
    if (!copies.get(0).proven()
        && new MadeAnew(models, target, source).isSo(onSource(), onTarget())) {
      throw MadeAnew.refusal(ofTarget, ofSource);
    }
  }

  /** Whether they count at all. */
  boolean isAny() {
    return !copies.isEmpty();
  }

  /** What merges into the target settled. */
  MergedRows onTarget() {
    return copies.get(0).rows();
  }

  /** What merges into the source settled. */
  MergedRows onSource() {
    return copies.get(1).rows();
  }

  /** The rows of the target, then those of the source; none if they don't count. */
  List<MergedRows> all() {
    return copies.stream().map(OnCopy::rows).toList();
  }

  /** How the ledgers of the copies stand to the base, by the copy's name. */
  Map<String, CopyMarks.Standing> standings() {
    Map<String, CopyMarks.Standing> standings = new LinkedHashMap<>();
    copies.forEach(copy -> standings.put(copy.name(), copy.standing()));
    return standings;
  }

  /** Applies that a copy's ledger knows and of which no receipt is here, by the copy's name. */
  Map<String, List<Ledger.Entry>> missing() {
    Map<String, List<Ledger.Entry>> missing = new LinkedHashMap<>();
    for (OnCopy copy : copies) {
      if (!copy.rows().missing().isEmpty()) {
        missing.put(copy.name(), copy.rows().missing());
      }
    }
    return missing;
  }

  @Override
  public void close() throws IOException {
    for (OnCopy copy : copies) {
      copy.rows().close();
    }
  }
}
