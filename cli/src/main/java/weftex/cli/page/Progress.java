package weftex.cli.page;

import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.util.Locale;
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

  private static final long MEGABYTE = 1_000_000;

  private final Session session;
  private final String task;
  private final long most;
  private final boolean bytes;
  private final long started = System.nanoTime();
  private ProgressBar bar;
  private long done;

  private Progress(Session session, String task, long most, boolean bytes) {
    this.session = session;
    this.task = task;
    this.most = most;
    this.bytes = bytes;
  }

  /**
   * Begins.
   *
   * @param most how far it will go, at least about, or -1 if nobody knows
   */
  public static Progress start(Session session, String task, long most) {
    return new Progress(session, task, most, false);
  }

  /** The same for the bytes of a file. */
  public static Progress ofBytes(Session session, String task, long most) {
    return new Progress(session, task, most, true);
  }

  @Override
  public void accept(long now) {
    done = now;
    boolean late = System.nanoTime() - started > SHOWN_AFTER_NANOS;
    if (bar == null && late && session.terminal().err()) {
      bar = bar();
    }
    if (bar != null) {
      if (most >= 0 && done > most) {
        // It was an estimate.
        bar.maxHint(done);
      }
      bar.stepTo(done);
    }
  }

  private ProgressBar bar() {
    return new ProgressBarBuilder()
        .setTaskName(task)
        .setInitialMax(most)
        .setStyle(ProgressBarStyle.ASCII)
        .setUnit(bytes ? " MB" : "", bytes ? MEGABYTE : 1)
        .showSpeed(new DecimalFormat("#,##0", DecimalFormatSymbols.getInstance(Locale.ROOT)))
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
