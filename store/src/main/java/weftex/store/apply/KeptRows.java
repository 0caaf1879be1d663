package weftex.store.apply;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.change.Alike;
import weftex.core.change.KeptChange;
import weftex.core.file.FileRows;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.changeset.ChangePass;
import weftex.store.engine.Numbers;
import weftex.store.engine.TargetTables;
import weftex.store.receipt.ReceiptWriter;

/** Notes what stays as it is, so that the next comparison does not ask again. */
record KeptRows(TargetTables tables, Numbers numbers, ReceiptWriter writer)
    implements ChangePass.KeptSink {

  @Override
  public void kept(KeptChange change) throws IOException, Refusal {
    if (FileRows.isFile(change)) {
      writer.kept(
          change.id(),
          change.action(),
          change.table(),
          change.key(),
          change.own(),
          Optional.empty());
      return;
    }
    Table table = tables.table(change.table()).table();
    Map<String, Value> known = numbers.resolveKnown(table, change.own());
    writer.kept(
        change.id(),
        change.action(),
        change.table(),
        keyHere(change, known),
        known,
        change.fresh());
  }

  @Override
  public void alike(Alike row) throws IOException {
    Action action = row.isGone() ? Action.REMOVE : Action.UPDATE;
    writer.kept(0, action, row.table(), row.key(), row.values(), Optional.empty());
  }

  /**
   * The key on the target; a row that was to be added under no number of its own has the source's.
   */
  private static Map<String, Value> keyHere(KeptChange change, Map<String, Value> known) {
    boolean isKeyed = change.action() == Action.ADD && change.fresh().isEmpty();
    if (!isKeyed || !known.keySet().containsAll(change.key().keySet())) {
      return change.key();
    }
    Map<String, Value> key = new LinkedHashMap<>();
    change.key().keySet().forEach(column -> key.put(column, known.get(column)));
    return key;
  }
}
