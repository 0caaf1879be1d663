package weftex.cli.screen;

import java.io.IOException;
import java.util.Optional;
import java.util.concurrent.Future;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/**
 * Checks, while the reader is looking already, that a change set is as it was drafted: a long file
 * is shown in half the time that it takes to read and to hash it.
 */
final class Proof {
  private final ChangeSetFile glanced;
  private Optional<Future<ChangeSetFile>> reading = Optional.empty();

  Proof(ChangeSetFile glanced) {
    this.glanced = glanced;
  }

  /** Begins, if it has not begun. */
  void start() {
    if (reading.isEmpty()) {
      reading = Optional.of(Aside.begin("proof", glanced::again));
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
