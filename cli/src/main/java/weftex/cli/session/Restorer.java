package weftex.cli.session;

import java.util.concurrent.atomic.AtomicReference;

/** Puts right what must not stay as it is if the program is ended from outside. */
public final class Restorer {
  private final AtomicReference<Runnable> screen = new AtomicReference<>();

  private final AtomicReference<Runnable> due = new AtomicReference<>();

  /** Says what must be done before the program may end. */
  public void due(Runnable task) {
    due.set(task);
  }

  /** It was done. */
  public void notDue() {
    due.set(null);
  }

  /** Does what is still to be done. */
  public void finish() {
    Runnable task = due.getAndSet(null);
    if (task != null) {
      task.run();
    }
  }

  public void set(Runnable restore) {
    screen.set(restore);
  }

  public void clear() {
    screen.set(null);
  }

  /** Gives it back; says whether a screen was up. */
  public boolean restore() {
    Runnable restore = screen.getAndSet(null);
    if (restore != null) {
      restore.run();
    }
    return restore != null;
  }
}
