package weftex.store.rows;

import java.io.IOException;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.Semaphore;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.store.FailureWords;
import weftex.store.database.Dialect;
import weftex.store.database.Layout;

/**
 * Reads a stream ahead on a thread of its own, by at most a few batches, and not beyond a long row
 * before somebody takes it.
 */
public final class PrefetchedRows implements RowStream {
  private static final int BATCH_ROWS = 512;
  private static final long BATCH_BYTES = 192 * 1024;
  private static final int BATCHES_AHEAD = 3;

  /** A batch of more bytes than this holds a long row. */
  private static final long LONG_BYTES = 1 << 20;

  private final BlockingQueue<Batch> queue = new ArrayBlockingQueue<>(BATCHES_AHEAD);
  private final RowStream rows;
  private final Thread thread;
  private volatile boolean closed;
  private Batch batch = new Batch(new Row[0], 0, false, null, false);
  private int at;

  private final Semaphore taken = new Semaphore(0);

  /**
   * @param isLong whether the reader waits until its rows were handed out
   */
  private record Batch(Row[] rows, int size, boolean isLong, Throwable failure, boolean last) {}

  /** The rows of a query in whatever order they come; their keys are not read. */
  public static RowStream of(PreparedStatement query, Layout layout, Dialect dialect, String copy)
      throws SQLException {
    ResultSet read = query.executeQuery();
    RowReader reader = new RowReader(layout, dialect);
    String name = "read " + layout.realName() + " on " + copy;
    RowStream rows =
        new RowStream() {
          @Override
          public Row next() throws IOException {
            try {
              return read.next() ? reader.readWithoutKey(read) : Row.ABSENT;
            } catch (SQLException e) {
              throw new IOException(name + " broke off: " + FailureWords.of(e), e);
            }
          }

          @Override
          public void close() throws IOException {
            try (query) {
              read.close();
            } catch (SQLException e) {
              throw new IOException("closing " + name + " failed: " + FailureWords.of(e), e);
            }
          }
        };
    return new PrefetchedRows(rows, name);
  }

  PrefetchedRows(RowStream rows, String name) {
    this.rows = rows;
    this.thread = new Thread(this::run, name);
    thread.setDaemon(true);
    thread.start();
  }

  private void run() {
    try {
      boolean last = false;
      while (!last && !closed) {
        Row[] read = new Row[BATCH_ROWS];
        int size = 0;
        long bytes = 0;
        while (size < BATCH_ROWS && bytes < BATCH_BYTES && !last) {
          Row row = rows.next();
          last = !row.isPresent();
          if (!last) {
            read[size++] = row;
            bytes += row.length();
          }
        }
        queue.put(new Batch(read, size, bytes > LONG_BYTES, null, last));
        if (bytes > LONG_BYTES) {
          taken.acquire();
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (IOException | RuntimeException | Error e) {
      queue.clear();
      queue.add(new Batch(new Row[0], 0, false, e, true));
    }
  }

  @Override
  public Row next() throws IOException {
    while (at == batch.size()) {
      if (batch.failure() != null) {
        if (batch.failure() instanceof Error error) {
          throw error;
        }
        throw failure(batch.failure());
      }
      if (batch.last()) {
        return Row.ABSENT;
      }
      if (batch.isLong()) {
        taken.release();
      }
      try {
        batch = queue.take();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IOException("interrupted while reading", e);
      }
      at = 0;
    }
    Row row = batch.rows()[at];
    batch.rows()[at++] = null;
    return row;
  }

  private static IOException failure(Throwable cause) {
    return cause instanceof IOException io ? io : new IOException(cause.getMessage(), cause);
  }

  @Override
  public void close() throws IOException {
    closed = true;
    queue.clear();
    thread.interrupt();
    try {
      thread.join();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    rows.close();
  }
}
