package weftex.core.scan;

/** What is wrong. */
public enum FindingKind {
  LEFTOVER("leftover", "the other copy's address is still in it"),
  MENTION("mention", "the other copy's host stands in it alone, perhaps on purpose"),
  PREFIX("prefix", "it begins with the other copy's prefix of table names"),
  BROKEN_REFERENCE("broken-reference", "it refers to a row that is not there"),
  DUPLICATE("duplicate", "the same thing is there more than once"),
  DOUBLED(
      "doubled", "a thing is there twice, word for word; an older merge may have made it again"),
  COUNTER("counter", "a counter is off"),
  MALFORMED("malformed", "it claims a format and is not well-formed"),
  MISSING_FILE("missing-file", "a file that it names is not in the copy's folder");

  private final String label;
  private final String words;

  FindingKind(String label, String words) {
    this.label = label;
    this.words = words;
  }

  /** For files and options. */
  public String label() {
    return label;
  }

  /** For a person. */
  public String words() {
    return words;
  }
}
