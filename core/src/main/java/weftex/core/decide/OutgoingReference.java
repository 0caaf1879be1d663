package weftex.core.decide;

import java.util.LinkedHashMap;
import java.util.Map;
import weftex.core.change.Item;
import weftex.core.row.Value;

/** What a removed row refers to. */
record OutgoingReference(int id, String table, Item thing, Map<String, Value> after) {
  OutgoingReference {
    Map<String, Value> small = new LinkedHashMap<>();
    after.forEach(
        (column, value) -> {
          if (!(value instanceof Value.Text text) || text.utf8().length <= 64) {
            small.put(column, value);
          }
        });
    after = small;
  }
}
