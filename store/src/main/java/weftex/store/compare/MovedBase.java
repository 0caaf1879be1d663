package weftex.store.compare;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.compare.KeyRange;
import weftex.core.compare.RangeDigests;
import weftex.core.compare.RangedSide;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.apply.MergedRows;

/**
 * A base that has moved on: its rows are as the merges since then left them, cell by cell. Rows
 * that merges added are not in it, since the two copies know them by other numbers.
 *
 * <p>Its digests are those of before: a range in which all sides were alike then and are alike now
 * has nothing to settle.
 */
final class MovedBase implements RangedSide {
  private final RangedSide base;
  private final MergedRows merged;

  private MovedBase(RangedSide base, MergedRows merged) {
    this.base = base;
    this.merged = merged;
  }

  static RangedSide of(RangedSide base, MergedRows merged) {
    return new MovedBase(base, merged);
  }

  @Override
  public RowStream open(Table table) throws IOException {
    return moved(table, base.open(table));
  }

  @Override
  public RowStream open(Table table, List<KeyRange> ranges) throws IOException {
    return moved(table, base.open(table, ranges));
  }

  @Override
  public Optional<RangeDigests> digests(Table table, long width) throws IOException {
    return base.digests(table, width);
  }

  private RowStream moved(Table table, RowStream rows) {
    Set<Map<String, Value>> keys = merged.keys(table.name());
    if (keys.isEmpty() || !table.hasKey()) {
      return rows;
    }
    boolean byNumber =
        table.key().size() == 1
            && table.columns().get(table.key().get(0)).kind() == ValueKind.WHOLE;
    // Of most rows not even the key needs to be read.
    Set<SortKey> numbers = new HashSet<>();
    for (Map<String, Value> key : byNumber ? keys : Set.<Map<String, Value>>of()) {
      if (key.values().iterator().next() instanceof Value.Whole whole) {
        numbers.add(SortKey.ofWhole(whole.number()));
      }
    }
    return new RowStream() {
      @Override
      public Row next() throws IOException {
        Row row = rows.next();
        while (row.isPresent() && (!byNumber || numbers.contains(row.key()))) {
          Row moved = MovedBase.this.moved(table, row);
          if (moved.isPresent()) {
            return moved;
          }
          row = rows.next();
        }
        return row;
      }

      @Override
      public void close() throws IOException {
        rows.close();
      }
    };
  }

  /** A row as it was left; absent if it was removed. */
  private Row moved(Table table, Row row) throws IOException {
    List<Value> values = row.values();
    Map<String, Value> key = new LinkedHashMap<>();
    for (int i : table.key()) {
      key.put(table.columns().get(i).name(), values.get(i));
    }
    Optional<MergedRows.Left> left = merged.left(table.name(), key);
    if (left.isEmpty()) {
      return row;
    }
    if (left.get().removed()) {
      return Row.ABSENT;
    }
    List<Value> now = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      Column column = table.columns().get(i);
      now.add(left.get().values().getOrDefault(column.name(), values.get(i)));
    }
    return Row.of(row.key(), now);
  }
}
