package weftex.store.compare;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;

/** Two streams in one order. */
final class OverlaidRows implements RowStream {
  private final RowStream below;
  private final List<Map.Entry<SortKey, Row>> above;
  private int at;
  private Row next;

  OverlaidRows(RowStream below, TreeMap<SortKey, Row> above) throws IOException {
    this.below = below;
    this.above = above == null ? List.of() : new ArrayList<>(above.entrySet());
    this.next = below.next();
  }

  @Override
  public Row next() throws IOException {
    while (true) {
      int order =
          at == above.size()
              ? 1
              : next.isPresent() ? above.get(at).getKey().compareTo(next.key()) : -1;
      if (order > 0) {
        Row row = next;
        next = row.isPresent() ? below.next() : row;
        return row;
      }
      if (order == 0) {
        next = below.next();
      }
      Row row = above.get(at++).getValue();
      if (row.isPresent()) {
        return row;
      }
    }
  }

  @Override
  public void close() throws IOException {
    below.close();
  }
}
