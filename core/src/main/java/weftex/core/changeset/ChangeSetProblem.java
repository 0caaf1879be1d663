package weftex.core.changeset;

/** A change set that can't be read as one. */
public final class ChangeSetProblem extends Exception {
  private static final long serialVersionUID = 1;

  /** What is wrong, for those who act on it. */
  public enum Kind {
    NOT_A_CHANGE_SET,
    NEWER_FORMAT,
    CUT_SHORT,
    /** Cut off behind the drafted part, while a decision was written. */
    TORN,
    ALTERED,
    MALFORMED
  }

  private final Kind kind;
  private final long line;

  /**
   * @param line counted from 1
   * @param what a clause that goes after "line N: "
   */
  public ChangeSetProblem(Kind kind, long line, String what) {
    super(what);
    this.kind = kind;
    this.line = line;
  }

  public Kind kind() {
    return kind;
  }

  public long line() {
    return line;
  }
}
