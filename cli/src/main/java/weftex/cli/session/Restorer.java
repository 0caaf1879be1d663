package weftex.cli.session;

import java.util.concurrent.atomic.AtomicReference;

/** Gives the terminal back as it was if the program is ended from outside. */
public final class Restorer {
  private final AtomicReference<Runnable> screen = new AtomicReference<>();

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
