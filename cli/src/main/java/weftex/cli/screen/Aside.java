package weftex.cli.screen;

import java.io.IOException;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.concurrent.FutureTask;
import weftex.store.Refusal;

/** Work that is done beside other work, since whoever waits for a screen waits for the sum else. */
public final class Aside {
  private Aside() {}

  /** Begins some work on a thread of its own, which does not keep the program from ending. */
  public static <T> Future<T> begin(String name, Callable<T> work) {
    FutureTask<T> task = new FutureTask<>(work);
    Thread thread = new Thread(task, name);
    thread.setDaemon(true);
    thread.start();
    return task;
  }

  /** Waits for what comes of some work, or fails as it failed. */
  public static <T> T result(Future<T> work) throws IOException, Refusal {
    try {
      return work.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException("interrupted while waiting", e);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof Refusal refusal) {
        throw refusal;
      }
      if (e.getCause() instanceof IOException failure) {
        throw failure;
      }
      throw new IllegalStateException(e.getCause());
    }
  }
}
