package weftex.core.model;

/** Whose the rows of a table are. */
public enum Role {
  /** Made on staging and merged into live. */
  CONTENT("content"),
  /**
   * Belongs to the copy that has it: which extensions are active, the schema's version, keys,
   * endpoints. It travels only if asked for by name.
   */
  OWN("each copy's own"),
  /** Made by visitors on live (comments, accounts, orders); left out unless asked for by name. */
  LIVE("live's own"),
  /**
   * Worth nothing elsewhere (caches, sessions, locks); neither captured nor compared unless asked
   * for.
   */
  NOISE("noise");

  private final String words;

  Role(String words) {
    this.words = words;
  }

  /** For a person. */
  public String words() {
    return words;
  }
}
