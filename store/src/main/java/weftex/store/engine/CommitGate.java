package weftex.store.engine;

/**
 * Stands between a transaction and its commit, so that an interrupt can say for sure that nothing
 * was changed: an interrupt that comes first closes the gate for good.
 */
public final class CommitGate {

  /** How far a write has come. */
  public enum Stage {
    /** Nothing has been written. */
    IDLE,
    /** A transaction is open; giving up undoes it. */
    WRITING,
    /**
     * The same, and new tables, columns or files were made before; the next run takes them away.
     */
    WRITING_AFTER_MAKING,
    /** The commit was sent and not answered yet. */
    COMMITTING,
    /** Everything is permanent. */
    COMMITTED,
    /** Somebody interrupted before the commit. */
    INTERRUPTED
  }

  private Stage stage = Stage.IDLE;

  /** Says that a transaction was opened. */
  public synchronized void writing() {
    if (stage != Stage.INTERRUPTED) {
      stage = Stage.WRITING;
    }
  }

  /** Says that new tables, columns or files are being made. */
  public synchronized void makes() {
    if (stage != Stage.INTERRUPTED) {
      stage = Stage.WRITING_AFTER_MAKING;
    }
  }

  /** Whether the commit may be sent. */
  synchronized boolean pass() {
    if (stage == Stage.INTERRUPTED) {
      return false;
    }
    stage = Stage.COMMITTING;
    return true;
  }

  synchronized void committed() {
    stage = Stage.COMMITTED;
  }

  /** How far things have come. */
  public synchronized Stage stage() {
    return stage;
  }

  /** Interrupts, and returns how far things had come. */
  public synchronized Stage interrupt() {
    Stage reached = stage;
    if (stage.compareTo(Stage.COMMITTING) < 0) {
      stage = Stage.INTERRUPTED;
    }
    return reached;
  }
}
