package weftex.core.address;

/** A way in which an address is written. */
public enum Form {
  PLAIN("plain"),
  NO_SCHEME("without scheme"),
  OTHER_SCHEME("other scheme"),
  JSON("JSON-escaped"),
  PERCENT("percent-encoded"),
  PERCENT_TWICE("percent-encoded twice"),
  HTML("HTML-escaped"),
  HOST("host alone"),
  ROOT("from the root"),
  FOLDER("file path"),
  PAIR("extra pair");

  private final String label;

  Form(String label) {
    this.label = label;
  }

  /** The name in files and on screens. */
  public String label() {
    return label;
  }
}
