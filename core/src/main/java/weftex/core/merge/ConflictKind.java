package weftex.core.merge;

/** Why a change needs a person's decision. */
public enum ConflictKind {
  /** Both copies changed the same column, each in its own way. */
  BOTH_EDITED("both-edited"),
  /** The source changed a row that the target has removed. */
  EDITED_GONE("edited-gone"),
  /** The source removed a row that the target has changed. */
  GONE_EDITED("gone-edited"),
  /** The source removed a row that rows of the target hang on. */
  GONE_IN_USE("gone-in-use"),
  /** Both copies added the same thing, with different values. */
  BOTH_ADDED("both-added"),
  /** The change would give a row a unique value that another row of the target has. */
  TAKEN("taken"),
  /** The change refers to a row that neither the target nor the change set has. */
  MISSING_PARENT("missing-parent"),
  /** The source removed a row of a table of which nobody says what it is. */
  UNKNOWN_TABLE("unknown-table"),
  /** There is no base, so nobody can say which copy changed. */
  NO_BASE("no-base");

  private final String label;

  ConflictKind(String label) {
    this.label = label;
  }

  /** The name in files and on screens. */
  public String label() {
    return label;
  }

  /** Whether both copies have a value of their own where it is about. */
  public boolean isClash() {
    return this == BOTH_EDITED || this == BOTH_ADDED;
  }

  /** The kind of a label; throws {@link IllegalArgumentException} for an unknown one. */
  public static ConflictKind ofLabel(String label) {
    for (ConflictKind kind : values()) {
      if (kind.label.equals(label)) {
        return kind;
      }
    }
    throw new IllegalArgumentException("unknown kind of conflict '" + label + "'");
  }
}
