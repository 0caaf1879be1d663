package weftex.core.plan;

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
        public boolean isUsed(RowName here) {
          return false;
        }

        @Override
        public Optional<Map<String, Value>> left(String table, Map<String, Value> key) {
          return Optional.empty();
        }
      };

  /**
   * The row that was made of one of the source's.
   *
   * @param number that it got on the target
   * @param left as the last merge left it, in the target's terms; empty if that is only known in
   *     the source's
   * @param replaced whether the target has given the number to another row since
   */
  record Twin(BigInteger number, Optional<Map<String, Value>> left, boolean replaced) {}

  /** What became of one of the source's rows that a merge added. */
  Optional<Twin> twin(RowName added) throws IOException;

  /**
   * Whether a merge gave a number of the target to a row, even if that is gone: nothing else is to
   * have it.
   */
  boolean isUsed(RowName here);

  /**
   * A row of the target as the last merge left it, in the target's terms: all values of an added
   * row, those that were written of others.
   *
   * @param key by column
   * @return empty if no merge into this target wrote the row, or if the last one removed it
   */
  Optional<Map<String, Value>> left(String table, Map<String, Value> key) throws IOException;
}
