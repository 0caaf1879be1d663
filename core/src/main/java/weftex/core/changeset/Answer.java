package weftex.core.changeset;

/** What a reviewer can say of a change. */
public enum Answer {
  /** Of a conflict: the source's side. */
  SOURCE,
  /** Of a conflict: the target's side. */
  TARGET,
  /** The change is not made. */
  SKIP,
  /** A skipped change is made after all. */
  INCLUDE,
  /** An offered change is brought along. */
  BRING;

  public String label() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
