package weftex.store;

/** Weftex can't or won't do what was asked, for a reason that lies outside it. */
public final class Refusal extends Exception {
  private static final long serialVersionUID = 1;

  /** What kind of reason, by which a caller decides how to go on. */
  public enum Kind {
    /** What was asked, or the configuration, is wrong. */
    WRONG_INPUT,
    /** Nothing is there to be worked on. */
    NOTHING,
    /** A copy can't be reached. */
    UNREACHABLE,
    /** Going on could harm data. */
    PROTECTED,
    /** Something has to be decided first. */
    UNDECIDED
  }

  private static final String NOTHING = " Nothing was changed.";

  private final Kind kind;
  private final String next;

  /**
   * @param what one or more full sentences: what happened, to which copy or row, and what was (not)
   *     changed
   * @param next one full sentence: what to do now
   */
  public Refusal(Kind kind, String what, String next) {
    super(what);
    this.kind = kind;
    this.next = next;
  }

  /** As above, keeping the cause for a log. */
  public Refusal(Kind kind, String what, String next, Throwable cause) {
    super(what, cause);
    this.kind = kind;
    this.next = next;
  }

  /** The message without the claim that nothing was changed, for who knows better or says it. */
  public String reason() {
    String what = getMessage();
    return what.endsWith(NOTHING) ? what.substring(0, what.length() - NOTHING.length()) : what;
  }

  public Kind kind() {
    return kind;
  }

  public String next() {
    return next;
  }
}
