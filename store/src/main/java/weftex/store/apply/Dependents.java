package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.ChangeSetHeader;
import weftex.core.row.ColumnValues;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.WriteTable;
import weftex.store.engine.TargetTables;
import weftex.store.receipt.ReceiptWriter;
import weftex.store.rows.WriteTransaction;

/**
 * Rows of tables outside of a change set that the database itself removes or changes when a row is
 * removed on which they hang by a foreign key: earlier versions, locks and the like. They are read
 * before and after, so that the receipt knows them and an undo brings them back.
 */
final class Dependents {
  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final ReceiptWriter receipt;
  private final Map<String, List<Incoming>> incoming = new LinkedHashMap<>();
  private final List<Seen> seen = new ArrayList<>();
  private final Set<List<Object>> known = new HashSet<>();

  /** A foreign key, seen from the table that it refers to. */
  private record Incoming(WriteTable from, ForeignKey key) {}

  private record Seen(int id, WriteTable table, List<Value> key, Map<String, Value> before) {}

  Dependents(
      WriteTransaction transaction, TargetTables tables, Catalog catalog, ReceiptWriter receipt) {
    this.transaction = transaction;
    this.tables = tables;
    this.receipt = receipt;
    for (CatalogTable table : catalog.all()) {
      Table shape = table.table();
      if (tables.isWritten(shape.name()) || !shape.hasKey()) {
        continue;
      }
      for (ForeignKey key : shape.foreignKeys()) {
        incoming
            .computeIfAbsent(key.table(), name -> new ArrayList<>())
            .add(new Incoming(WriteTable.of(table, shape), key));
      }
    }
  }

  /** Whether anything outside hangs on a table of the change set. */
  static boolean isPossible(Catalog catalog, List<ChangeSetHeader.TableColumns> written) {
    return !outside(catalog, written).isEmpty();
  }

  /** The tables of which rows may go or change along, as a receipt has them. */
  static List<ChangeSetHeader.TableColumns> outside(
      Catalog catalog, List<ChangeSetHeader.TableColumns> written) {
    Set<String> reached = new HashSet<>();
    written.forEach(table -> reached.add(table.name()));
    List<ChangeSetHeader.TableColumns> outside = new ArrayList<>();
    boolean more = true;
    while (more) {
      more = false;
      for (CatalogTable table : catalog.all()) {
        Table shape = table.table();
        boolean hangs = shape.foreignKeys().stream().anyMatch(k -> reached.contains(k.table()));
        if (hangs && shape.hasKey() && reached.add(shape.name())) {
          outside.add(ChangeSetHeader.TableColumns.of(shape, List.of()));
          more = true;
        }
      }
    }
    return outside;
  }

  /** Reads what hangs on a row that is going to be removed, and on that in turn. */
  void look(String table, Map<String, Value> row) throws SQLException, IOException {
    for (Incoming in : incoming.getOrDefault(table, List.of())) {
      Table shape = in.from().table();
      List<Value> referred = in.key().targetColumns().stream().map(row::get).toList();
      boolean unset = referred.stream().anyMatch(value -> value == null || value.isNull());
      if (unset) {
        continue;
      }
      List<Integer> columns = shape.positions(in.key().columns());
      for (List<Value> values : transaction.find(in.from(), columns, referred)) {
        List<Value> key = Table.pick(values, shape.key());
        if (known.add(List.of(shape.name(), key))) {
          Map<String, Value> before = ColumnValues.of(shape, values);
          Seen one = new Seen(-1 - seen.size(), in.from(), key, before);
          seen.add(one);
          receipt.before(one.id(), shape.name(), keyOf(one), before);
          look(shape.name(), before);
        }
      }
    }
  }

  private static Map<String, Value> keyOf(Seen one) {
    Map<String, Value> key = new LinkedHashMap<>();
    for (String column : one.table().table().names(one.table().table().key())) {
      key.put(column, one.before().get(column));
    }
    return key;
  }

  /**
   * Reads them again; what hangs on others comes first, so that an undo, going backwards, has
   * those.
   */
  void settle() throws SQLException, IOException {
    for (int i = seen.size() - 1; i >= 0; i--) {
      Seen one = seen.get(i);
      Table shape = one.table().table();
      Optional<List<Value>> now =
          transaction.lock(one.table(), List.of(one.key())).values().stream().findFirst();
      if (now.isEmpty()) {
        after(one, Action.REMOVE, Map.of());
      } else if (!ColumnValues.of(shape, now.get()).equals(one.before())) {
        after(one, Action.UPDATE, ColumnValues.of(shape, now.get()));
      }
    }
  }

  private void after(Seen one, Action action, Map<String, Value> values) throws IOException {
    receipt.after(
        one.id(),
        action,
        one.table().table().name(),
        keyOf(one),
        values,
        ReceiptWriter.Merged.NOTHING);
  }
}
