package weftex.core.change;

/**
 * Where a row's thing is seen by visitors, and who last worked on it on either side, as far as the
 * site model says where that stands.
 *
 * @param path its public path, such as {@code /harbours/brae}; empty if nothing says it
 * @param source on the source; {@link Touch#UNKNOWN} if it is not there or nothing says it
 * @param target on the target, likewise
 * @param evidence what a worked-out base says of the row; empty where the base was recorded
 */
public record Trace(String path, Touch source, Touch target, String evidence) {
  /** Nothing is known. */
  public static final Trace NONE = new Trace("", Touch.UNKNOWN, Touch.UNKNOWN, "");

  /** The same, with what a worked-out base says. */
  public Trace with(String evidence) {
    return new Trace(path, source, target, evidence);
  }

  /**
   * Who, and when.
   *
   * @param by empty if nothing says it
   * @param at as {@code 2026-11-20T14:05:00}, in whatever time zone the site writes; empty if
   *     nothing says it
   */
  public record Touch(String by, String at) {
    public static final Touch UNKNOWN = new Touch("", "");

    public boolean isKnown() {
      return !by.isEmpty() || !at.isEmpty();
    }
  }
}
