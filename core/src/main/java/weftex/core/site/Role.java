package weftex.core.site;

/** Whose the rows of a table are. */
public enum Role {
  /** Made on staging and merged into live. */
  CONTENT("content"),
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
