package weftex.store.dump;

import java.io.IOException;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.ToIntFunction;
import weftex.store.Refusal;

/**
 * Reads what comes next in a thread of its own, while the one before it is used. Memory holds two
 * if the first is short, and else one.
 */
final class ReadAhead<T> implements AutoCloseable {
  /** Characters of one that leaves room for another. */
  private static final int SHORT = 1 << 22;

  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread own = new Thread(task, "read statements");
            own.setDaemon(true);
            return own;
          });

  private final Source<T> source;
  private final ToIntFunction<T> length;
  private Optional<Future<Optional<T>>> ahead;

  /** What is read. */
  interface Source<T> {
    /** The next one; empty at the end. */
    Optional<T> next() throws Refusal, IOException;
  }

  /**
   * @param length how many characters one has
   */
  ReadAhead(Source<T> source, ToIntFunction<T> length) {
    this.source = source;
    this.length = length;
    this.ahead = Optional.of(begun());
  }

  private Future<Optional<T>> begun() {
    return thread.submit(source::next);
  }

  /** The next one, and begins to read what follows it; empty at the end. */
  Optional<T> next() throws Refusal, IOException {
    Future<Optional<T>> begun = ahead.isPresent() ? ahead.get() : begun();
    Optional<T> read = read(begun);
    boolean goesOn = read.isPresent() && length.applyAsInt(read.get()) <= SHORT;
    ahead = goesOn ? Optional.of(begun()) : Optional.empty();
    return read;
  }

  private Optional<T> read(Future<Optional<T>> begun) throws Refusal, IOException {
    try {
      return begun.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException("interrupted", e);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof Refusal refusal) {
        throw refusal;
      }
      if (e.getCause() instanceof Error error) {
        // Memory that is too small is said in its own words.
        throw error;
      }
      throw e.getCause() instanceof IOException broken ? broken : new IOException(e.getCause());
    }
  }

  @Override
  public void close() {
    thread.shutdownNow();
  }
}
