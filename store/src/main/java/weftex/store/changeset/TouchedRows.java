package weftex.store.changeset;

import java.io.IOException;
import java.util.Map;
import weftex.core.row.Value;

/** Takes rows that a run touches or touched, one after the other. */
public interface TouchedRows {
  /**
   * @param before the row as it was; empty if it is added
   * @param after the row as it will be or is now; empty if it is removed
   */
  void accept(String table, Map<String, Value> before, Map<String, Value> after) throws IOException;
}
