package weftex.core.change;

/** What a reviewer can say of a change. */
public enum Answer {
  /** Of a conflict: the source's side. */
  SOURCE,
  /** Of a conflict: the target's side. */
  TARGET,
  /** Of one column: a value of the reviewer's own. */
  VALUE,
  /** The change is not made. */
  SKIP,
  /** A skipped change is made after all. */
  INCLUDE,
  /** An offered change is brought along. */
  BRING,
  /** Whatever was decided about the change no longer holds. */
  REOPEN,
  /** Something to remember; it decides nothing. */
  NOTE;

  public String label() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }

  /** Whether it can be given for a single column. */
  boolean isOfColumns() {
    return this == SOURCE || this == TARGET || this == VALUE || this == REOPEN;
  }
}
