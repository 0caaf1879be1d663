package weftex.cli.session;

import weftex.store.Refusal;

/** How a command ended. */
public enum ExitStatus {
  DONE(0),
  /** Done, and there is something to decide: conflicts, drift, differences. */
  TO_DECIDE(1),
  /** Wrong usage or configuration. */
  WRONG_USAGE(2),
  /** A copy can't be reached. */
  UNREACHABLE(3),
  /** Refused to protect data. */
  PROTECTED(4),
  /** An unexpected failure. */
  FAILED(5);

  private final int code;

  ExitStatus(int code) {
    this.code = code;
  }

  public int code() {
    return code;
  }

  /** The status that a refusal ends with. */
  public static ExitStatus of(Refusal.Kind kind) {
    return switch (kind) {
      case WRONG_INPUT, NOTHING -> WRONG_USAGE;
      case UNREACHABLE -> UNREACHABLE;
      case PROTECTED -> PROTECTED;
      case UNDECIDED -> TO_DECIDE;
    };
  }
}
