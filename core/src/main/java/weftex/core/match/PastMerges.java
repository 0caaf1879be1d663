package weftex.core.match;

import java.io.IOException;
import java.math.BigInteger;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * What earlier merges of the pair made, so that the next one knows their rows again, whatever
 * number they have on either copy and however they have been edited since.
 */
public interface PastMerges {

  /** A pair that was never merged. */
  PastMerges NONE =
      new PastMerges() {
        @Override
        public Optional<Twin> twin(RowName added) {
          return Optional.empty();
        }

        @Override
        public Optional<BigInteger> number(RowName ofSource) {
          return Optional.empty();
        }

        @Override
        public boolean isUsed(RowName here) {
          return false;
        }

        @Override
        public Optional<Map<String, Value>> withheld(RowName added) {
          return Optional.empty();
        }

        @Override
        public boolean isDeclined(RowName ofTarget) {
          return false;
        }

        @Override
        public boolean wasKept(String table, Map<String, Value> key) {
          return false;
        }

        @Override
        public boolean wasLeft(String table, Map<String, Value> key) {
          return false;
        }

        @Override
        public Optional<Left> left(String table, Map<String, Value> key) {
          return Optional.empty();
        }
      };

  /**
   * A row as the last merge left it, by column; a column that no merge wrote is in neither map.
   *
   * @param onTarget what was merged into the target, in its terms
   * @param onSource what was merged into the source, in the source's terms
   * @param whole whether that is all of the row
   */
  record Left(Map<String, Value> onTarget, Map<String, Value> onSource, boolean whole) {}

  /**
   * The row that was made of one of the source's.
   *
   * @param number that it got on the target
   * @param left as the last merge left it; empty if that is not known
   * @param replaced whether the target has given the number to another row since
   */
  record Twin(BigInteger number, Optional<Left> left, boolean replaced) {}

  /** What became of one of the source's rows that a merge added. */
  Optional<Twin> twin(RowName added) throws IOException;

  /** The number on the target of a row that the source has or had, if a merge paired the two. */
  Optional<BigInteger> number(RowName ofSource);

  /**
   * Whether a merge gave a number of the target to a row, even if that is gone: nothing else is to
   * have it.
   */
  boolean isUsed(RowName here);

  /**
   * A row as the last merge left it: all values of one that the copies got by merges, those that
   * were written of others.
   *
   * @param key on the target, by column
   * @return empty if no merge wrote the row, or if the last one removed it
   */
  Optional<Left> left(String table, Map<String, Value> key) throws IOException;

  /**
   * The values in the target's terms, as far as they were known, of a new row of the source of
   * which somebody decided that the target does not get it; empty if nobody did.
   */
  Optional<Map<String, Value>> withheld(RowName added) throws IOException;

  /** Whether somebody decided of a row of the target that the source does not get it. */
  boolean isDeclined(RowName ofTarget);

  /**
   * Whether the source has a row and the target has not, as somebody decided: the target removed it
   * and the source keeps it, or it was not made on the target again.
   *
   * @param key on the target, by column
   */
  boolean wasKept(String table, Map<String, Value> key) throws IOException;

  /**
   * Whether the target has a row and the source has not, as somebody decided: the source removed
   * it, or the row that it was made anew of, and the target keeps it.
   *
   * @param key on the target, by column
   */
  boolean wasLeft(String table, Map<String, Value> key) throws IOException;
}
