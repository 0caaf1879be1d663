package weftex.core.value;

/** How the values of a column are written, as far as a site model says it. */
public enum Format {
  /** Nobody says: a value is what it is well-formed as, else a text. */
  AUTO,
  /** Text, whatever it looks like. */
  TEXT,
  /** Serialised; anything else is malformed. */
  SERIALIZED,
  /** JSON; anything else is malformed. */
  JSON,
  /** Base64 (RFC 4648) of a value of any format. */
  BASE64
}
