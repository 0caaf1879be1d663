package weftex.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;

/** A row as an earlier merge left it, put together from what is known of it. */
public final class LeftRow {
  private LeftRow() {}

  /**
   * @param left by column; a long value may be known by its digest alone
   * @param source the source's row in the target's terms; empty if it has none
   * @param now the target's row; empty if it has none
   */
  public static Row of(
      Table table, SortKey key, Map<String, Value> left, List<Value> source, List<Value> now) {
    List<Value> values = new ArrayList<>();
    for (int i = 0; i < table.columns().size(); i++) {
      Value on = now.isEmpty() ? Value.NULL : now.get(i);
      // A column that came later has not been merged yet: the target's value stands for it.
      Value value = left.getOrDefault(table.columns().get(i).name(), on);
      if (value instanceof Value.Digest) {
        Value known = value;
        value =
            known.matches(on)
                ? on
                // Of what is unlike both, nobody can show more than that.
                : !source.isEmpty() && known.matches(source.get(i))
                    ? source.get(i)
                    : Value.text(known.display());
      }
      values.add(value);
    }
    return Row.of(key, values);
  }
}
