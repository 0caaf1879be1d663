package weftex.core.changeset;

/** What a row change does to the target. */
public enum Action {
  ADD,
  UPDATE,
  REMOVE;

  /** The name in files and on screens. */
  public String label() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
