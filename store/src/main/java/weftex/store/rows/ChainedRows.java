package weftex.store.rows;

import java.io.IOException;
import java.util.Iterator;
import java.util.List;
import weftex.core.row.Row;
import weftex.core.row.RowStream;

/** Several streams one after the other; each is opened when the one before it is through. */
final class ChainedRows implements RowStream {
  private final Iterator<Snapshot.RowOpener> parts;
  private RowStream at = RowStream.EMPTY;

  ChainedRows(List<Snapshot.RowOpener> parts) {
    this.parts = parts.iterator();
  }

  @Override
  public Row next() throws IOException {
    Row row = at.next();
    while (!row.isPresent() && parts.hasNext()) {
      at.close();
      at = parts.next().open();
      row = at.next();
    }
    return row;
  }

  @Override
  public void close() throws IOException {
    at.close();
  }
}
