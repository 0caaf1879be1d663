package weftex.cli.render;

import java.util.function.LongConsumer;
import me.tongfei.progressbar.ConsoleProgressBarConsumer;
import me.tongfei.progressbar.ProgressBar;
import me.tongfei.progressbar.ProgressBarBuilder;
import me.tongfei.progressbar.ProgressBarStyle;
import weftex.cli.session.Session;

/** Progress on standard error, only if that is a terminal. */
public final class Progress implements AutoCloseable, LongConsumer {
  /** Work that is over sooner needs no bar. */
  private static final long SHOWN_AFTER_NANOS = 800_000_000L;

  private final Session session;
  private final String task;
  private final long most;
  private final long started = System.nanoTime();
  private ProgressBar bar;
  private long done;

  private Progress(Session session, String task, long most) {
    this.session = session;
    this.task = task;
    this.most = most;
  }

  /**
   * Begins.
   *
   * @param most how far it will go, or -1 if nobody knows
   */
  public static Progress start(Session session, String task, long most) {
    return new Progress(session, task, most);
  }

  @Override
  public void accept(long now) {
    done = now;
    boolean late = System.nanoTime() - started > SHOWN_AFTER_NANOS;
    if (bar == null && late && session.terminal().err()) {
      bar = bar();
    }
    if (bar != null) {
      bar.stepTo(done);
    }
  }

  private ProgressBar bar() {
    return new ProgressBarBuilder()
        .setTaskName(task)
        .setInitialMax(most)
        .setStyle(ProgressBarStyle.ASCII)
        .setConsumer(new ConsoleProgressBarConsumer(session.err(), session.terminal().width()))
        .setUpdateIntervalMillis(200)
        .clearDisplayOnFinish()
        .build();
  }

  @Override
  public void close() {
    if (bar != null) {
      bar.close();
    }
    session.log().step(task, System.nanoTime() - started, done);
  }
}
