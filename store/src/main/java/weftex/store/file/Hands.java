package weftex.store.file;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ConcurrentLinkedQueue;
import weftex.store.Refusal;

/**
 * Does the same with many files, several at once where a turn over a line takes longer than the
 * work itself. Each hand is of one thread; the first is the caller's own.
 *
 * @param <H> what a hand holds, such as handles on folders
 */
public final class Hands<H extends AutoCloseable> implements AutoCloseable {
  /** An SSH server allows ten channels in a connection unless told otherwise; these take half. */
  private static final int MOST = 4;

  /** Things for which another hand is worth its making. */
  private static final int WORTH = 4;

  private final List<H> hands = new ArrayList<>();

  /** What is done with each. */
  public interface Work<T, H> {
    void on(T one, H hand) throws IOException, Refusal;
  }

  /** Makes another hand; empty if there is to be no more. */
  public interface Another<H> {
    Optional<H> make() throws IOException;
  }

  /**
   * Hands for so many things.
   *
   * @param first the caller's own, which the caller closes
   */
  public Hands(H first, int things, Another<H> another) throws IOException {
    hands.add(first);
    while (hands.size() < Math.min(MOST, things / WORTH)) {
      Optional<H> more = another.make();
      if (more.isEmpty()) {
        return;
      }
      hands.add(more.get());
    }
  }

  /**
   * Works on all of them, each once, begun in their order. When this returns, nothing is under way.
   *
   * @throws IOException what failed first, after which no other was begun
   * @throws Refusal likewise
   */
  public <T> void each(List<T> things, Work<T, H> work) throws IOException, Refusal {
    ConcurrentLinkedQueue<T> left = new ConcurrentLinkedQueue<>(things);
    List<Throwable> failed = new ArrayList<>();
    List<Thread> others = new ArrayList<>();
    for (H hand : hands.subList(1, hands.size())) {
      Thread thread = new Thread(() -> work(left, hand, work, failed), "files");
      thread.setDaemon(true);
      thread.start();
      others.add(thread);
    }
    work(left, hands.get(0), work, failed);
    join(others);
    if (!failed.isEmpty()) {
      raise(failed.get(0));
    }
  }

  private static <T, H> void work(
      ConcurrentLinkedQueue<T> left, H hand, Work<T, H> work, List<Throwable> failed) {
    try {
      for (T one = left.poll(); one != null; one = left.poll()) {
        work.on(one, hand);
      }
    } catch (IOException | Refusal | RuntimeException | Error e) {
      left.clear();
      synchronized (failed) {
        failed.add(e);
      }
    }
  }

  /** Waits also if it is told not to: nobody may go on while a file is being written. */
  private static void join(List<Thread> threads) {
    boolean interrupted = false;
    for (Thread thread : threads) {
      while (thread.isAlive()) {
        try {
          thread.join();
        } catch (InterruptedException e) {
          interrupted = true;
        }
      }
    }
    if (interrupted) {
      Thread.currentThread().interrupt();
    }
  }

  private static void raise(Throwable failure) throws IOException, Refusal {
    if (failure instanceof IOException e) {
      throw e;
    }
    if (failure instanceof Refusal e) {
      throw e;
    }
    if (failure instanceof RuntimeException e) {
      throw e;
    }
    throw (Error) failure;
  }

  /** Closes all but the first. */
  @Override
  public void close() {
    for (H hand : hands.subList(1, hands.size())) {
      try {
        hand.close();
      } catch (Exception e) {
        // All that was asked for is done; what is left ends with the line.
        continue;
      }
    }
  }
}
