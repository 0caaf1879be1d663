package weftex.store.rows;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.SortKey;
import weftex.core.row.Value;
import weftex.store.database.Dialect;
import weftex.store.database.KeyPart;
import weftex.store.database.Layout;

/**
 * Turns the current row of a result, read by {@link Layout#select}, into a {@link Row}. Rows share
 * a larger array, a slice each.
 */
public final class RowReader {
  private static final int SHARED_BYTES = 128 * 1024;
  private static final int FEW_BYTES = 4 * 1024;

  private final Layout layout;
  private final Dialect.CellReader[] cells;
  private final int number;
  private final int capacity;
  private RowPacking.Sink sink;

  /** A reader of a whole table. */
  RowReader(Layout layout, Dialect dialect) {
    this(layout, dialect, SHARED_BYTES);
  }

  private RowReader(Layout layout, Dialect dialect, int capacity) {
    this.capacity = capacity;
    this.sink = new RowPacking.Sink(capacity);
    this.layout = layout;
    this.cells =
        layout.table().columns().stream()
            .map(dialect::cellReader)
            .toArray(Dialect.CellReader[]::new);
    this.number = layout.isByNumber() ? layout.orderColumns().get(0) : -1;
  }

  /** A reader of the few rows that are looked up at once. */
  public static RowReader ofFew(Layout layout, Dialect dialect) {
    return new RowReader(layout, dialect, FEW_BYTES);
  }

  /** Reads a row with its place in the order. */
  Row read(ResultSet rows) throws SQLException {
    int start = pack(rows);
    byte[] shared = sink.shared();
    SortKey key = number >= 0 ? numberKey(shared, start) : key(rows, shared, start);
    return new Row(key, shared, start, sink.size() - start);
  }

  /** Reads a row whose place in the order nobody asks for. */
  public Row readWithoutKey(ResultSet rows) throws SQLException {
    int start = pack(rows);
    return new Row(new SortKey(new byte[0]), sink.shared(), start, sink.size() - start);
  }

  private int pack(ResultSet rows) throws SQLException {
    if (sink.size() > capacity - capacity / 8) {
      sink = new RowPacking.Sink(capacity);
    }
    int start = sink.size();
    for (int i = 0; i < cells.length; i++) {
      cells[i].read(rows, i + 1, sink);
    }
    return start;
  }

  private SortKey numberKey(byte[] packed, int start) {
    int at = RowPacking.skip(packed, start, number);
    RowPacking.Cursor cursor = new RowPacking.Cursor(packed, at);
    if (packed[at] == RowPacking.WHOLE << 1) {
      return SortKey.ofWhole(cursor.whole());
    }
    Value value = cursor.next();
    if (value instanceof Value.Whole whole) {
      return SortKey.ofWhole(whole.number());
    }
    throw new IllegalStateException(
        "the key of "
            + layout.realName()
            + " holds "
            + value.display()
            + ", which is no whole number");
  }

  private SortKey key(ResultSet rows, byte[] packed, int start) throws SQLException {
    SortKey.Builder key = new SortKey.Builder();
    List<Integer> order = layout.orderColumns();
    int expression = cells.length;
    for (int i = 0; i < order.size(); i++) {
      if (layout.keyParts().get(i).style() == KeyPart.Style.NUMBER) {
        int at = RowPacking.skip(packed, start, order.get(i));
        Value value = new RowPacking.Cursor(packed, at).next();
        if (value instanceof Value.Whole whole) {
          key.add(whole.number());
        } else {
          key.addNull();
        }
      } else {
        byte[] bytes = rows.getBytes(++expression);
        if (bytes == null) {
          key.addNull();
        } else {
          key.add(bytes);
        }
      }
    }
    return key.build();
  }
}
