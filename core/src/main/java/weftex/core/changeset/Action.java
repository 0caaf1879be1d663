package weftex.core.changeset;

/** What a row change does to the target. */
public enum Action {
  ADD,
  UPDATE,
  REMOVE;

  private final String label = name().toLowerCase(java.util.Locale.ROOT);

  /** The name in files and on screens. */
  public String label() {
    return label;
  }
}
