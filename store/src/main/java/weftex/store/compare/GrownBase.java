package weftex.store.compare;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
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
import weftex.core.row.Table;
import weftex.core.row.Value;

/** A base as if it had columns already that came later, with what they hold in older rows. */
final class GrownBase implements RangedSide {
  private final RangedSide base;
  private final Map<String, Map<String, Value>> fills;

  private GrownBase(RangedSide base, Map<String, Map<String, Value>> fills) {
    this.base = base;
    this.fills = fills;
  }

  /** The same base, if nothing came later. */
  static RangedSide of(RangedSide base, Map<String, Map<String, Value>> fills) {
    return fills.isEmpty() ? base : new GrownBase(base, fills);
  }

  @Override
  public RowStream open(Table table) throws IOException {
    Map<String, Value> fill = fills.getOrDefault(table.name(), Map.of());
    if (fill.isEmpty()) {
      return base.open(table);
    }
    Set<String> recorded = new LinkedHashSet<>();
    for (Column column : table.columns()) {
      if (!fill.containsKey(column.name())) {
        recorded.add(column.name());
      }
    }
    RowStream rows = base.open(table.only(recorded));
    return new RowStream() {
      @Override
      public Row next() throws IOException {
        Row row = rows.next();
        return row.isPresent() ? Row.of(row.key(), filled(table, row.values(), fill)) : row;
      }

      @Override
      public void close() throws IOException {
        rows.close();
      }
    };
  }

  private static List<Value> filled(Table table, List<Value> values, Map<String, Value> fill) {
    List<Value> filled = new ArrayList<>();
    int at = 0;
    for (Column column : table.columns()) {
      Value value = fill.get(column.name());
      filled.add(value == null ? values.get(at++) : value);
    }
    return filled;
  }

  @Override
  public Optional<RangeDigests> digests(Table table, long width) throws IOException {
    return fills.containsKey(table.name()) ? Optional.empty() : base.digests(table, width);
  }

  @Override
  public RowStream open(Table table, List<KeyRange> ranges) throws IOException {
    return base.open(table, ranges);
  }
}
