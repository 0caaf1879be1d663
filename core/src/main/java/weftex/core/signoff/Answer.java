package weftex.core.signoff;

/** What a reviewer can say of a change. */
public enum Answer {
  /** Of a conflict: the source's side. */
  SOURCE,
  /** Of a conflict: the target's side. */
  TARGET,
  /** Of a passage of a text: the source's words, and then the target's. */
  BOTH,
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
  public boolean isOfColumns() {
    return isOfPassages() || this == VALUE || this == REOPEN;
  }

  /** Whether it can be given for a single passage of a column's text. */
  public boolean isOfPassages() {
    return this == SOURCE || this == TARGET || this == BOTH;
  }
}
