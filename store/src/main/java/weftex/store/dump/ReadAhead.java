package weftex.store.dump;

import java.io.IOException;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import weftex.store.Refusal;

/**
 * Reads what comes next in a thread of its own, while the one before it is used. Memory holds two.
 */
final class ReadAhead<T> implements AutoCloseable {
  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread own = new Thread(task, "read statements");
            own.setDaemon(true);
            return own;
          });
  private final Source<T> source;
  private Future<Optional<T>> ahead;

  /** What is read. */
  interface Source<T> {
    /** The next one; empty at the end. */
    Optional<T> next() throws Refusal, IOException;
  }

  ReadAhead(Source<T> source) {
    this.source = source;
    this.ahead = thread.submit(source::next);
  }

  /** The next one, and begins to read what follows it; empty at the end. */
  Optional<T> next() throws Refusal, IOException {
    Optional<T> read = read();
    if (read.isPresent()) {
      ahead = thread.submit(source::next);
    }
    return read;
  }

  private Optional<T> read() throws Refusal, IOException {
    try {
      return ahead.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException("interrupted", e);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof Refusal refusal) {
        throw refusal;
      }
      throw e.getCause() instanceof IOException broken ? broken : new IOException(e.getCause());
    }
  }

  @Override
  public void close() {
    thread.shutdownNow();
  }
}
