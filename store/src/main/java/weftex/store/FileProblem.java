package weftex.store;

import java.io.IOException;

/** Why a file of ours can't be read or written, in words for whoever runs us. */
public final class FileProblem extends IOException {
  private static final long serialVersionUID = 1;

  private final String next;

  /**
   * @param message a whole sentence, without its full stop
   * @param next a sentence on what to do about it
   */
  public FileProblem(String message, String next) {
    super(message);
    this.next = next;
  }

  public FileProblem(String message, String next, Exception cause) {
    super(message, cause);
    this.next = next;
  }

  /** What to do about it. */
  public String next() {
    return next;
  }
}
