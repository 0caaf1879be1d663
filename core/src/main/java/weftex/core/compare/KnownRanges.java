package weftex.core.compare;

import weftex.core.row.Table;

/**
 * Ranges that source and target have otherwise than the base, and that an earlier comparison found
 * to say the same on both, row by row: what merges have settled stays settled until a digest is
 * another one. Only ranges are known that no difference at all was found in.
 */
public interface KnownRanges {
  /** Nothing is known. */
  KnownRanges NONE =
      new KnownRanges() {
        @Override
        public boolean isAlike(Table table, long width, Digests digests) {
          return false;
        }

        @Override
        public void alike(Table table, long width, Digests digests) {}
      };

  /**
   * A range as both sides have it.
   *
   * @param range its number: its keys begin at {@code range * width}
   */
  record Digests(long range, long sourceRows, long source, long targetRows, long target) {}

  /** Whether an earlier comparison found that the sides say the same there. */
  boolean isAlike(Table table, long width, Digests digests);

  /** Takes in that this comparison did. */
  void alike(Table table, long width, Digests digests);
}
