package weftex.core.compare;

/** How the rows of one table stand; counted while they stream by. */
public final class Tally {
  private long same;
  private long sourceAdded;
  private long sourceUpdated;
  private long sourceRemoved;
  private long targetAdded;
  private long targetUpdated;
  private long targetRemoved;

  void same() {
    same++;
  }

  void settle(Settlement settled) {
    same += settled.rows();
  }

  void count(Difference row) {
    count(row, 1);
  }

  private void count(Difference row, int by) {
    if (!row.bySource() && !row.byTarget()) {
      same += by;
    }
    if (row.bySource()) {
      if (!row.base().isPresent()) {
        sourceAdded += by;
      } else if (!row.source().isPresent()) {
        sourceRemoved += by;
      } else {
        sourceUpdated += by;
      }
    }
    if (row.byTarget()) {
      if (!row.base().isPresent()) {
        targetAdded += by;
      } else if (!row.target().isPresent()) {
        targetRemoved += by;
      } else {
        targetUpdated += by;
      }
    }
  }

  /**
   * Counts a row anew that both sides seemed to have added, and that an earlier merge made.
   *
   * @param now the row as it was merged, and as it is on both sides
   */
  void recount(Difference now) {
    if (now.source().isPresent()) {
      sourceAdded--;
    }
    if (now.target().isPresent()) {
      targetAdded--;
    }
    count(now);
  }

  /** Counts a row of the base anew, which looked otherwise before its references were followed. */
  void recount(Difference was, Difference now) {
    count(was, -1);
    count(now);
  }

  /** Whether either side has changed any row. */
  public boolean isDifferent() {
    return sourceAdded() + sourceUpdated() + sourceRemoved() > 0
        || targetAdded() + targetUpdated() + targetRemoved() > 0;
  }

  /** Rows that are the same on all three sides. */
  public long unchanged() {
    return same;
  }

  public long sourceAdded() {
    return sourceAdded;
  }

  public long sourceUpdated() {
    return sourceUpdated;
  }

  public long sourceRemoved() {
    return sourceRemoved;
  }

  public long targetAdded() {
    return targetAdded;
  }

  public long targetUpdated() {
    return targetUpdated;
  }

  public long targetRemoved() {
    return targetRemoved;
  }
}
