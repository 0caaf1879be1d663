package weftex.store.engine;

import java.io.IOException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import weftex.store.Refusal;

/**
 * Runs the second half of each step on another thread, at most one step behind the first, so that
 * the server reads on while rows are compared and written to the receipt. The halves run in order.
 */
final class OneBehind implements AutoCloseable {
  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          run -> {
            Thread made = new Thread(run, "compare and record");
            made.setDaemon(true);
            return made;
          });
  private Future<Void> last;

  /** The second half of a step. */
  interface Half {
    void run() throws IOException, Refusal;
  }

  /**
   * Hands over the second half of a step when that of the step before is done.
   *
   * @throws IOException what the step before has thrown
   * @throws Refusal what the step before has thrown
   */
  void then(Half half) throws IOException, Refusal {
    await();
    last =
        thread.submit(
            () -> {
              half.run();
              return null;
            });
  }

  /** Waits until all is done; what was thrown is thrown here. */
  void await() throws IOException, Refusal {
    if (last == null) {
      return;
    }
    try {
      last.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException("interrupted", e);
    } catch (ExecutionException e) {
      rethrow(e.getCause());
    } finally {
      last = null;
    }
  }

  private static void rethrow(Throwable cause) throws IOException, Refusal {
    if (cause instanceof IOException io) {
      throw io;
    }
    if (cause instanceof Refusal refusal) {
      throw refusal;
    }
    if (cause instanceof Error error) {
      throw error;
    }
    throw (RuntimeException) cause;
  }

  /** Ends the thread; a half that still runs is finished first. */
  @Override
  public void close() {
    thread.shutdown();
    try {
      if (last != null) {
        last.get();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (ExecutionException e) {
      // The failure that closed this early is the one to tell of.
    }
  }
}
