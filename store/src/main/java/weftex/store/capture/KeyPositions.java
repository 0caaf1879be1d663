package weftex.store.capture;

import java.util.ArrayList;
import java.util.List;
import weftex.core.row.Table;

/** Where the columns of a key are. */
final class KeyPositions {

  private KeyPositions() {}

  static List<Integer> positions(Manifest.Entry entry, Table table) {
    List<Integer> positions = new ArrayList<>();
    for (var column : table.columns()) {
      positions.add(entry.columns().indexOf(column.name()));
    }
    return positions;
  }
}
