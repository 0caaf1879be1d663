package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import weftex.core.change.Action;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.engine.TargetTables;
import weftex.store.receipt.ReceiptRows;
import weftex.store.rows.WriteTransaction;

/**
 * Which added rows an undo must keep, since rows that stay refer to them or since they are parts of
 * what stays. Rows that go in the same undo hold nothing back, whatever circles they make. Memory
 * grows with the added rows and what refers to them.
 */
final class InUse {
  private final WriteTransaction transaction;
  private final TargetTables tables;
  private final SiteMap site;
  private final Rows rows;
  private final boolean enforcedOnly;
  private final Map<Target, Integer> added = new LinkedHashMap<>();
  private final Map<Pointer, Integer> leaving = new HashMap<>();
  private final Map<Integer, List<Pointer>> pointers = new HashMap<>();
  private final Map<Integer, List<Integer>> parts = new HashMap<>();
  private final Map<Integer, List<Integer>> belongings = new HashMap<>();
  private final Map<Integer, List<String>> ties = new LinkedHashMap<>();
  private final BitSet removable = new BitSet();
  private final Deque<Integer> kept = new ArrayDeque<>();

  /** The rows of the receipt, by their place in the order of applying. */
  interface Rows {
    ReceiptRows.Touched at(int index) throws IOException, Refusal;
  }

  /** Is told of a row that stays, and why. */
  interface Keeper {
    void keep(int index, String why) throws IOException, Refusal;
  }

  /** What a reference names; values as text, since columns of two types may refer to each other. */
  private record Target(String table, List<String> columns, List<String> values) {}

  /** References of one kind to an added row. */
  private record Pointer(String from, List<Integer> columns, int to) {}

  /**
   * @param adds the places of the added rows
   * @param enforcedOnly whether only what the server enforces holds a row back
   */
  InUse(
      WriteTransaction transaction,
      TargetTables tables,
      SiteMap site,
      Rows rows,
      BitSet adds,
      boolean enforcedOnly)
      throws IOException, Refusal {
    this.transaction = transaction;
    this.tables = tables;
    this.site = site;
    this.rows = rows;
    this.enforcedOnly = enforcedOnly;
    for (int i = adds.nextSetBit(0); i >= 0; i = adds.nextSetBit(i + 1)) {
      ReceiptRows.Touched row = rows.at(i);
      if (!tables.isGone(row.table())) {
        for (SiteMap.Incoming incoming : site.incoming(row.table())) {
          added.put(target(row, incoming.reference()), i);
        }
      }
    }
  }

  private Target target(ReceiptRows.Touched row, Reference reference) {
    List<String> columns = site.table(row.table()).table().names(reference.targetColumns());
    return new Target(row.table(), columns, texts(columns, row.after()));
  }

  private static List<String> texts(List<String> columns, Map<String, Value> values) {
    return columns.stream().map(name -> values.getOrDefault(name, Value.NULL).display()).toList();
  }

  /**
   * Takes in a row that is to be taken back.
   *
   * @param now its values on the target
   */
  void goes(int index, ReceiptRows.Touched row, Map<String, Value> now) {
    if (row.action() == Action.ADD) {
      removable.set(index);
    }
    if (added.isEmpty() || site.find(row.table()).isEmpty()) {
      return;
    }
    TableModel model = site.table(row.table());
    for (Reference reference : model.references()) {
      List<String> columns = model.table().names(reference.columns());
      boolean lets =
          row.action() == Action.ADD
              || columns.stream().anyMatch(name -> !same(row.before(), row.after(), name));
      Integer to = lets ? added.get(target(reference, texts(columns, now))) : null;
      if (to == null) {
        continue;
      }
      Pointer pointer = new Pointer(row.table(), reference.columns(), to);
      leaving.merge(pointer, 1, Integer::sum);
      if (row.action() == Action.ADD) {
        pointers.computeIfAbsent(index, unused -> new ArrayList<>()).add(pointer);
        if (binds(model, reference)) {
          parts.computeIfAbsent(to, unused -> new ArrayList<>()).add(index);
        } else if (belongs(model, reference)) {
          belongings.computeIfAbsent(to, unused -> new ArrayList<>()).add(index);
        }
        if (reference.enforced() && to > index) {
          ties.computeIfAbsent(index, unused -> new ArrayList<>()).addAll(columns);
        }
      }
    }
  }

  private static boolean same(Map<String, Value> one, Map<String, Value> other, String name) {
    return one.getOrDefault(name, Value.NULL).equals(other.getOrDefault(name, Value.NULL));
  }

  private Target target(Reference reference, List<String> values) {
    List<String> columns =
        site.find(reference.target())
            .map(model -> model.table().names(reference.targetColumns()))
            .orElse(List.of());
    return new Target(reference.target(), columns, values);
  }

  /** Whether a row always stays with the one that it refers to: a page keeps its picture. */
  private static boolean binds(TableModel model, Reference reference) {
    return model
        .parts()
        .of()
        .map(reference::equals)
        .orElse(reference.target().equals(model.table().name()));
  }

  /** Whether a row stays with the one that it refers to if somebody edited that. */
  private boolean belongs(TableModel model, Reference reference) {
    boolean author =
        site.people().map(people -> people.table().equals(reference.target())).orElse(false);
    return model.parts().of().isEmpty() && !author;
  }

  /** Takes in an added row that was edited, and therefore stays. */
  void stays(int index) {
    kept.add(index);
  }

  /** Finds out what else stays; to be called when all rows were taken in. */
  void settle(Keeper keeper) throws SQLException, Refusal, IOException {
    for (int edited : List.copyOf(kept)) {
      List<Integer> with = belongings.getOrDefault(edited, List.of());
      parts.computeIfAbsent(edited, unused -> new ArrayList<>()).addAll(with);
    }
    keepParts(keeper);
    Deque<Integer> open = new ArrayDeque<>();
    removable.stream().forEach(open::add);
    while (!open.isEmpty()) {
      int index = open.remove();
      Optional<String> users = removable.get(index) ? users(index) : Optional.empty();
      if (users.isPresent()) {
        keep(index, "is in use: " + users.get(), keeper);
        keepParts(keeper).forEach(open::add);
      }
    }
  }

  /** Keeps what belongs to the rows that stay; returns the rows that those refer to. */
  private Stream<Integer> keepParts(Keeper keeper) throws IOException, Refusal {
    List<Integer> referred = new ArrayList<>();
    while (!kept.isEmpty()) {
      int whole = kept.remove();
      for (Pointer pointer : pointers.getOrDefault(whole, List.of())) {
        leaving.merge(pointer, -1, Integer::sum);
        referred.add(pointer.to());
      }
      for (int part : parts.getOrDefault(whole, List.of())) {
        if (removable.get(part)) {
          keep(
              part,
              "belongs to a row of " + rows.at(whole).table() + " that is left alone",
              keeper);
        }
      }
    }
    return referred.stream();
  }

  private void keep(int index, String why, Keeper keeper) throws IOException, Refusal {
    removable.clear(index);
    keeper.keep(index, why);
    kept.add(index);
  }

  /** The rows that refer to an added row and that stay, in words. */
  private Optional<String> users(int index) throws SQLException, IOException, Refusal {
    ReceiptRows.Touched row = rows.at(index);
    for (SiteMap.Incoming incoming : site.incoming(row.table())) {
      Reference reference = incoming.reference();
      if (enforcedOnly && !reference.enforced()) {
        continue;
      }
      Table modelled = site.table(row.table()).table();
      List<Value> referred =
          modelled.names(reference.targetColumns()).stream().map(row.after()::get).toList();
      String name = incoming.from().table().name();
      Optional<WriteTable> from = tables.other(name);
      if (from.isEmpty() || referred.stream().anyMatch(v -> v == null || v.isNull())) {
        continue;
      }
      List<Integer> columns =
          from.get().table().positionsOrNone(incoming.from().table().names(reference.columns()));
      if (columns.isEmpty()) {
        continue;
      }
      long count =
          transaction.count(from.get(), columns, referred)
              - leaving.getOrDefault(new Pointer(name, reference.columns(), index), 0);
      if (count > 0) {
        return Optional.of(
            count
                + (count == 1 ? " row of " : " rows of ")
                + name
                + (count == 1 ? " hangs on it" : " hang on it"));
      }
    }
    return Optional.empty();
  }

  /**
   * Columns of rows that are removed, with enforced references to rows that go before them: they
   * are to be let go of first.
   */
  Map<Integer, List<String>> ties() {
    return ties;
  }
}
