package weftex.cli.render;

import java.util.function.LongConsumer;
import me.tongfei.progressbar.ConsoleProgressBarConsumer;
import me.tongfei.progressbar.ProgressBar;
import me.tongfei.progressbar.ProgressBarBuilder;
import me.tongfei.progressbar.ProgressBarStyle;
import weftex.cli.Session;

/** Progress on standard error, only if that is a terminal. */
public final class Progress implements AutoCloseable, LongConsumer {
  private final ProgressBar bar;

  private Progress(ProgressBar bar) {
    this.bar = bar;
  }

  /**
   * Begins.
   *
   * @param most how far it will go, or -1 if nobody knows
   */
  public static Progress start(Session session, String task, long most) {
    if (!session.terminal().err()) {
      return new Progress(null);
    }
    return new Progress(
        new ProgressBarBuilder()
            .setTaskName(task)
            .setInitialMax(most)
            .setStyle(ProgressBarStyle.ASCII)
            .setConsumer(new ConsoleProgressBarConsumer(session.err(), session.terminal().width()))
            .setUpdateIntervalMillis(200)
            .clearDisplayOnFinish()
            .build());
  }

  @Override
  public void accept(long done) {
    if (bar != null) {
      bar.stepTo(done);
    }
  }

  @Override
  public void close() {
    if (bar != null) {
      bar.close();
    }
  }
}
