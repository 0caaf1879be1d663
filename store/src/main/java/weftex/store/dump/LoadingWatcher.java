package weftex.store.dump;

import java.nio.file.Path;
import java.util.function.LongConsumer;

/** Whoever wants to know that a file is loaded, which can take long. */
public interface LoadingWatcher {
  /** Wants to know nothing. */
  LoadingWatcher NOBODY =
      new LoadingWatcher() {
        @Override
        public Watch loading(Path file, long bytes) {
          return read -> {};
        }

        @Override
        public void waiting(Path file) {}
      };

  /**
   * Loading begins.
   *
   * @param bytes how large the file is
   */
  Watch loading(Path file, long bytes);

  /** Another process is loading a file into the same database, and this one waits for that. */
  void waiting(Path file);

  /** Is told how many bytes of the file are loaded, and closed at the end. */
  interface Watch extends LongConsumer, AutoCloseable {
    @Override
    default void close() {}
  }
}
