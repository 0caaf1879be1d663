package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.IntPredicate;
import weftex.core.change.Action;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.engine.Step;
import weftex.store.engine.Steps;
import weftex.store.engine.TargetTables;
import weftex.store.receipt.ReceiptRows;

/** The rows of a receipt turned round: what was added is removed, what was removed comes back. */
final class UndoSteps implements Steps<UndoneRow> {
  private static final int CHUNK = 500;
  private static final long CHUNK_BYTES = 8L << 20;

  private final ReceiptRows rows;
  private final TargetTables tables;
  private final SiteMap site;
  private final IntPredicate chosen;
  private final BitSet passedOver = new BitSet();
  private final BitSet stays = new BitSet();

  /** By table, the columns that the site counts by itself; rows are compared beside the writing. */
  private final Map<String, Set<String>> own = new ConcurrentHashMap<>();

  /**
   * @param chosen by the number of a change, whether it is taken back
   */
  UndoSteps(ReceiptRows rows, TargetTables tables, SiteMap site, IntPredicate chosen) {
    this.rows = rows;
    this.tables = tables;
    this.site = site;
    this.chosen = chosen;
  }

  /** Says that a row stays as it is; to be called between two passes. */
  void stays(BitSet places) {
    stays.or(places);
  }

  /** Whether every row of the receipt is taken back. */
  boolean areAll() {
    return passedOver.isEmpty() && stays.isEmpty();
  }

  @Override
  public void each(Sink<UndoneRow> sink) throws SQLException, Refusal, IOException {
    Chunk chunk = new Chunk(sink);
    for (int i = 0; i < rows.size(); i++) {
      chunk.add(i);
    }
    chunk.end();
  }

  /** Backwards, so that rows are there again before those that refer to them. */
  @Override
  public void eachToWrite(Sink<UndoneRow> sink) throws SQLException, Refusal, IOException {
    Chunk chunk = new Chunk(sink);
    for (int i = rows.size() - 1; i >= 0; i--) {
      chunk.add(i);
    }
    chunk.end();
  }

  /** Gathers rows until there are enough of them, or enough bytes. */
  private final class Chunk {
    private final Sink<UndoneRow> sink;
    private List<Step<UndoneRow>> steps = new ArrayList<>();
    private long bytes;

    private Chunk(Sink<UndoneRow> sink) {
      this.sink = sink;
    }

    private void add(int index) throws SQLException, Refusal, IOException {
      if (stays.get(index)) {
        return;
      }
      ReceiptRows.Touched row = row(index);
      if (tables.isGone(row.table()) || !chosen.test(row.change())) {
        passedOver.set(index);
        return;
      }
      Step<UndoneRow> step = step(index, row);
      if (bytes + step.weight() > CHUNK_BYTES || steps.size() >= CHUNK) {
        end();
      }
      steps.add(step);
      bytes += step.weight();
    }

    private void end() throws SQLException, Refusal, IOException {
      List<Step<UndoneRow>> full = steps;
      steps = new ArrayList<>();
      bytes = 0;
      if (!full.isEmpty()) {
        sink.accept(full);
      }
    }
  }

  /** A row of the receipt, without columns that the apply made and that are gone again. */
  ReceiptRows.Touched row(int index) throws IOException, Refusal {
    ReceiptRows.Touched row = rows.get(index);
    if (row.action() != Action.ADD && row.before().isEmpty()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The receipt does not say what "
              + row.table()
              + " "
              + row.keyText()
              + " was before the apply.",
          "Take back the other changes with 'weftex undo --change', and this one by hand.");
    }
    Set<String> gone = tables.goneColumns(row.table());
    return gone.isEmpty() ? row : row.without(gone);
  }

  private Step<UndoneRow> step(int index, ReceiptRows.Touched row) throws Refusal {
    Table shape = tables.table(row.table()).table();
    Map<String, Value> before = shape.hasKey() ? withoutOwn(row.table(), row.after()) : row.after();
    return new Step<>(
        new UndoneRow(index, row),
        row.change(),
        row.action().inverse(),
        row.table(),
        shape.keyOf(row.key()),
        row.action() == Action.REMOVE ? Map.of() : before,
        switch (row.action()) {
          case ADD -> Map.of();
          case UPDATE -> restored(shape, row);
          case REMOVE -> row.before();
        });
  }

  /** What the site counts in a row by itself may have moved. */
  private Map<String, Value> withoutOwn(String table, Map<String, Value> values) {
    Set<String> own = own(table);
    if (own.isEmpty()) {
      return values;
    }
    Map<String, Value> others = new LinkedHashMap<>(values);
    others.keySet().removeIf(own::contains);
    return others;
  }

  /** Whether the site counts a column by itself. */
  boolean isOwn(String table, String column) {
    return own(table).contains(column);
  }

  private Set<String> own(String table) {
    return own.computeIfAbsent(
        table, name -> site.find(name).map(TableModel::own).orElse(Set.of()));
  }

  /** The columns that the apply changed, and those that the server touches, as they were. */
  private static Map<String, Value> restored(Table shape, ReceiptRows.Touched row) {
    Map<String, Value> restored = new LinkedHashMap<>();
    row.before()
        .forEach(
            (name, before) -> {
              Column column = shape.columns().get(shape.position(name).orElseThrow());
              boolean changed = !before.equals(row.after().get(name));
              if ((changed || column.touched()) && !(before instanceof Value.Digest)) {
                restored.put(name, before);
              }
            });
    return restored;
  }
}
