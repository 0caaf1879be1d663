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
        public Optional<BigInteger> twin(RowName added) {
          return Optional.empty();
        }

        @Override
        public Optional<Map<String, Value>> left(String table, Map<String, Value> key) {
          return Optional.empty();
        }
      };

  /** The number on the target of the row that was made of one of the source's. */
  Optional<BigInteger> twin(RowName added);

  /**
   * A row of the target as the last merge left it, in the target's terms: all values of an added
   * row, those that were written of others.
   *
   * @param key by column
   * @return empty if no merge into this target wrote the row, or if the last one removed it
   */
  Optional<Map<String, Value>> left(String table, Map<String, Value> key) throws IOException;
}
