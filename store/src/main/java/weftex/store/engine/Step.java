package weftex.store.engine;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.change.Action;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * One row of a run: where it stands, what must be there, and what is to be there afterwards.
 *
 * @param of what the row is made or taken back for
 * @param change the number of its change
 * @param table without prefix
 * @param key on the target, in the order of the table's key; empty if the table has none
 * @param before what must be there, by column; empty for a row that is added
 * @param after what is written, by column: a whole added row, some columns of an updated one,
 *     nothing of a removed one
 */
public record Step<T>(
    T of,
    int change,
    Action action,
    String table,
    List<Value> key,
    Map<String, Value> before,
    Map<String, Value> after) {

  /**
   * Where the row stands once it is written: an update may rewrite its own key in other letters.
   */
  List<Value> keyAfter(Table shape) {
    List<Value> written = new ArrayList<>();
    List<String> names = shape.names(shape.key());
    for (int i = 0; i < names.size(); i++) {
      written.add(after.getOrDefault(names.get(i), key.get(i)));
    }
    return written;
  }

  /** The key by column. */
  public static Map<String, Value> named(Table shape, List<Value> key) {
    Map<String, Value> named = new LinkedHashMap<>();
    List<String> names = shape.names(shape.key());
    for (int i = 0; i < names.size(); i++) {
      named.put(names.get(i), key.get(i));
    }
    return named;
  }

  /** About how many bytes its values take. */
  public long weight() {
    return weight(before) + weight(after);
  }

  private static long weight(Map<String, Value> values) {
    long weight = 0;
    for (Value value : values.values()) {
      weight +=
          value instanceof Value.Text text
              ? text.utf8().length
              : value instanceof Value.Binary binary ? binary.bytes().length : 16;
    }
    return weight;
  }
}
