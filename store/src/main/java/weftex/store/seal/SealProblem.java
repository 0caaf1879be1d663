package weftex.store.seal;

import java.io.IOException;

/** Why something can't be sealed or opened. */
public final class SealProblem extends IOException {
  private static final long serialVersionUID = 1;

  private final String next;

  /**
   * @param message a whole sentence, without its full stop
   * @param next a sentence on what to do about it
   */
  public SealProblem(String message, String next) {
    super(message);
    this.next = next;
  }

  public SealProblem(String message, String next, Exception cause) {
    super(message, cause);
    this.next = next;
  }

  /** What to do about it. */
  public String next() {
    return next;
  }
}
