package weftex.store.refit;

import java.io.IOException;
import java.util.function.UnaryOperator;
import weftex.core.row.Row;
import weftex.core.row.RowStream;

/** Rows, each as something makes it; what becomes an absent one is passed over. */
final class MappedStream implements RowStream {
  private final RowStream read;
  private final UnaryOperator<Row> told;

  MappedStream(RowStream read, UnaryOperator<Row> told) {
    this.read = read;
    this.told = told;
  }

  @Override
  public Row next() throws IOException {
    for (Row row = read.next(); row.isPresent(); row = read.next()) {
      Row now = told.apply(row);
      if (now.isPresent()) {
        return now;
      }
    }
    return Row.ABSENT;
  }

  @Override
  public void close() throws IOException {
    read.close();
  }
}
