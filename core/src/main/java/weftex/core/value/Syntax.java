package weftex.core.value;

/** How a structured value is written. */
public enum Syntax {
  /** As PHP's {@code serialize} writes it. */
  SERIALIZED("serialized"),
  /** JSON, RFC 8259. */
  JSON("json");

  private final String label;

  Syntax(String label) {
    this.label = label;
  }

  /** The name in files and on screens. */
  public String label() {
    return label;
  }
}
