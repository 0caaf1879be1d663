package weftex.cli.screen;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Future;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/**
 * Checks, while the reader is looking already, that a change set is as it was drafted: a long file
 * is shown in half the time that it takes to read and to hash it.
 */
final class Proof {
  private final Path file;
  private Optional<Future<ChangeSetFile>> reading = Optional.empty();

  Proof(Path file) {
    this.file = file;
  }

  /** Begins, if it has not begun. */
  void start() {
    if (reading.isEmpty()) {
      reading = Optional.of(Aside.begin("proof", () -> ChangeSetFile.read(file)));
    }
  }

  boolean isDone() {
    return reading.map(Future::isDone).orElse(false);
  }

  /**
   * Waits for the answer.
   *
   * @throws Refusal if the file is not what was drafted
   */
  void await() throws IOException, Refusal {
    start();
    Aside.result(reading.orElseThrow());
  }
}
