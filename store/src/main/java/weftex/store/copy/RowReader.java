package weftex.store.copy;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.SortKey;
import weftex.core.row.Value;

/** Turns the current row of a result, read by {@link Layout#select}, into a {@link Row}. */
final class RowReader {
  /** A buffer that one long value has grown is not kept. */
  private static final int KEEP_UP_TO = 1 << 20;

  private final Layout layout;
  private final Dialect dialect;
  private final List<Column> columns;
  private final int number;
  private RowPacking.Sink sink = new RowPacking.Sink(4096);

  RowReader(Layout layout, Dialect dialect) {
    this.layout = layout;
    this.dialect = dialect;
    this.columns = layout.table().columns();
    this.number = layout.isByNumber() ? layout.orderColumns().get(0) : -1;
  }

  Row read(ResultSet rows) throws SQLException {
    if (sink.size() > KEEP_UP_TO) {
      sink = new RowPacking.Sink(4096);
    }
    sink.clear();
    int startOfNumber = 0;
    for (int i = 0; i < columns.size(); i++) {
      if (i == number) {
        startOfNumber = sink.size();
      }
      dialect.read(rows, i + 1, columns.get(i), sink);
    }
    byte[] packed = sink.toByteArray();
    SortKey key = number >= 0 ? numberKey(packed, startOfNumber) : key(rows, packed);
    return new Row(key, packed, 0, packed.length);
  }

  /** Reads a row whose place in the order nobody asks for. */
  Row readWithoutKey(ResultSet rows) throws SQLException {
    sink.clear();
    for (int i = 0; i < columns.size(); i++) {
      dialect.read(rows, i + 1, columns.get(i), sink);
    }
    byte[] packed = sink.toByteArray();
    return new Row(new SortKey(new byte[0]), packed, 0, packed.length);
  }

  private SortKey numberKey(byte[] packed, int start) {
    Value value = new RowPacking.Cursor(packed, start).next();
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

  private SortKey key(ResultSet rows, byte[] packed) throws SQLException {
    SortKey.Builder key = new SortKey.Builder();
    List<Integer> order = layout.orderColumns();
    int expression = columns.size();
    for (int i = 0; i < order.size(); i++) {
      if (layout.keyParts().get(i).style() == KeyPart.Style.NUMBER) {
        int start = RowPacking.skip(packed, 0, order.get(i));
        Value value = new RowPacking.Cursor(packed, start).next();
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
