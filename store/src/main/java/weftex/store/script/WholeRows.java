package weftex.store.script;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.change.Action;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CatalogTable;
import weftex.store.database.Layout;
import weftex.store.rows.Snapshot;

/**
 * Long values of which a receipt keeps the digest alone, read from the copy on which the merge was
 * made: an update left them as they were.
 */
final class WholeRows implements AutoCloseable {
  private final Copy copy;
  private final Map<CatalogTable, Snapshot> snapshots = new HashMap<>();

  WholeRows(Copy copy) {
    this.copy = copy;
  }

  /** The row with its long values before whole, where it is an update and they are still there. */
  ScriptRow whole(ScriptRow row) throws IOException, Refusal {
    boolean any =
        row.action() == Action.UPDATE
            && row.before().values().stream().anyMatch(Value.Digest.class::isInstance);
    if (!any) {
      return row;
    }
    Table shape = row.table().table();
    List<Value> key = new ArrayList<>();
    for (int column : shape.key()) {
      key.add(row.key().get(shape.columns().get(column).name()));
    }
    List<Row> found = snapshot(row.table()).find(shape, shape.key(), key, 1);
    Map<String, Value> before = new LinkedHashMap<>(row.before());
    for (int i = 0; i < shape.columns().size() && !found.isEmpty(); i++) {
      Value now = found.get(0).values().get(i);
      before.computeIfPresent(
          shape.columns().get(i).name(),
          (name, was) -> was instanceof Value.Digest && was.matches(now) ? now : was);
    }
    return new ScriptRow(row.words(), row.action(), row.table(), row.key(), before, row.after());
  }

  private Snapshot snapshot(CatalogTable table) throws Refusal {
    Snapshot snapshot = snapshots.get(table);
    if (snapshot == null) {
      snapshot = copy.snapshot(List.of(Layout.alone(table)));
      snapshots.put(table, snapshot);
    }
    return snapshot;
  }

  @Override
  public void close() {
    snapshots.values().forEach(Snapshot::close);
  }
}
