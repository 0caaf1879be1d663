package weftex.core.match;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.compare.Comparison;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.core.row.Value;

/** What earlier merges, and decisions in them, say of rows. */
public final class EarlierFates {
  private final Comparison comparison;
  private final Matching matching;
  private final Newcomers newcomers;
  private final Fates fates;
  private final PastMerges past;
  private final LeftRow left;

  EarlierFates(Comparison comparison, Matching matching, PastMerges past, LeftRow left) {
    this.comparison = comparison;
    this.matching = matching;
    this.newcomers = matching.newcomers();
    this.fates = matching.fates();
    this.past = past;
    this.left = left;
  }

  /** Whether the target has removed a row since it was merged. */
  public boolean isGone(long at) throws IOException {
    Newcomer newcomer = newcomers.at(at).orElse(null);
    return newcomer != null && fates.of(newcomer) instanceof Newcomer.Gone;
  }

  /** Whether the target has removed a row since it was merged, and given its number away. */
  public boolean isReplaced(long at) throws IOException {
    Newcomer newcomer = newcomers.at(at).orElse(null);
    return newcomer != null
        && fates.of(newcomer) instanceof Newcomer.Gone gone
        && gone.isReplaced();
  }

  /**
   * Whether somebody decided before that the target does not get a new row, which the source has
   * not edited since.
   */
  public boolean isWithheld(long at) throws IOException {
    Newcomer newcomer = newcomers.at(at).orElse(null);
    if (newcomer == null || !(fates.of(newcomer) instanceof Newcomer.Numbered numbered)) {
      return false;
    }
    Optional<Map<String, Value>> known = past.withheld(numbered.name());
    if (known.isEmpty()) {
      return false;
    }
    Table table = comparison.tables().get(newcomer.table).table();
    List<Value> now = matching.mapped(newcomer);
    return known.get().entrySet().stream()
        .allMatch(cell -> cell.getValue().equals(now.get(table.position(cell.getKey()).orElse(0))));
  }

  /** Whether somebody decided before that the target does not get a new row. */
  public boolean wasWithheld(long at) throws IOException {
    Newcomer newcomer = newcomers.at(at).orElse(null);
    return newcomer != null
        && fates.of(newcomer) instanceof Newcomer.Numbered numbered
        && past.withheld(numbered.name()).isPresent();
  }

  /** Whether an earlier merge made the row that the source seems to have added. */
  public boolean wasMerged(long at) throws IOException {
    Newcomer newcomer = newcomers.at(at).orElse(null);
    if (newcomer == null) {
      return false;
    }
    return fates.of(newcomer) instanceof Newcomer.Gone
        || fates.of(newcomer) instanceof Newcomer.Matched matched
            && matched.removedAt() < 0
            && wasLeft(newcomer.table, matched.row().values());
  }

  /** Whether a merge wrote a row of the base, whose numbers may be those of either copy. */
  public boolean isMoved(int table, Row base) throws IOException {
    return base.isPresent() && left.known(table, left.key(table, base.values())).isPresent();
  }

  /** Whether an earlier merge made or wrote the target's row, and did not remove it. */
  private boolean wasLeft(int table, List<Value> row) throws IOException {
    return left.whole(table, left.key(table, row)).isPresent();
  }

  /** Whether somebody decided of a row of the target that the source does not get it. */
  public boolean isDeclined(Table table, List<Value> row) {
    return table.isNumbered()
        && row.get(table.number()) instanceof Value.Whole whole
        && past.isDeclined(new RowName(table.name(), whole.number()));
  }
}
