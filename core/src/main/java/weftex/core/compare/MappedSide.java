package weftex.core.compare;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.Table;

/**
 * A side in the terms of another copy. Its digests are those of the rows as they are: ranges that
 * are alike as they are need no mapping.
 */
final class MappedSide implements RangedSide {
  private final Side side;
  private final int table;
  private final RowMapping mapping;

  MappedSide(Side side, int table, RowMapping mapping) {
    this.side = side;
    this.table = table;
    this.mapping = mapping;
  }

  /** The same side where nothing is mapped. */
  static Side of(Side side, int table, RowMapping mapping) {
    return mapping == RowMapping.NONE ? side : new MappedSide(side, table, mapping);
  }

  @Override
  public RowStream open(Table shape) throws IOException {
    return mapped(side.open(shape), table, mapping);
  }

  @Override
  public RowStream open(Table shape, List<KeyRange> ranges) throws IOException {
    return mapped(((RangedSide) side).open(shape, ranges), table, mapping);
  }

  @Override
  public Optional<RangeDigests> digests(Table shape, long width) throws IOException {
    return side instanceof RangedSide ranged ? ranged.digests(shape, width) : Optional.empty();
  }

  static RowStream mapped(RowStream rows, int table, RowMapping mapping) {
    return new RowStream() {
      @Override
      public Row next() throws IOException {
        Row row = rows.next();
        return row.isPresent() ? mapping.map(table, row) : row;
      }

      @Override
      public void close() throws IOException {
        rows.close();
      }
    };
  }
}
