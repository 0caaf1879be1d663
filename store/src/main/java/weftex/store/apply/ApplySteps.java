package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import weftex.core.change.Action;
import weftex.core.change.DecidedChange;
import weftex.core.file.FileRows;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.changeset.ChangePass;
import weftex.store.engine.Numbers;
import weftex.store.engine.Step;
import weftex.store.engine.Steps;
import weftex.store.engine.TargetTables;

/** The decided changes of a change set, with the numbers that added rows get. */
record ApplySteps(ChangePass pass, TargetTables tables, Numbers numbers)
    implements Steps<DecidedChange> {

  @Override
  public void each(Sink<DecidedChange> sink) throws SQLException, Refusal, IOException {
    pass.overMade(
        changes -> {
          List<Step<DecidedChange>> chunk = new ArrayList<>();
          for (DecidedChange change : changes) {
            if (!FileRows.isFile(change)) {
              chunk.add(step(change));
            }
          }
          if (!chunk.isEmpty()) {
            sink.accept(chunk);
          }
        });
  }

  /** They are made in the order in which they stand. */
  @Override
  public void eachToWrite(Sink<DecidedChange> sink) throws SQLException, Refusal, IOException {
    each(sink);
  }

  private Step<DecidedChange> step(DecidedChange change) throws Refusal {
    Table table = tables.table(change.table()).table();
    return new Step<>(
        change,
        change.id(),
        change.action(),
        change.table(),
        key(table, change),
        change.before(),
        numbers.resolve(table, change.after()));
  }

  /** An added row's key is the one that it is going to get. */
  private List<Value> key(Table table, DecidedChange change) {
    if (change.action() != Action.ADD) {
      return table.keyOf(change.key());
    }
    List<Value> key = new ArrayList<>();
    for (String name : table.names(table.key())) {
      key.add(numbers.resolve(table, name, change.after().get(name)));
    }
    return key;
  }
}
