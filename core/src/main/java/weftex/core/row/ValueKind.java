package weftex.core.row;

/** What a column holds, as far as Weftex needs to know to carry it unharmed. */
public enum ValueKind {
  /** Characters; dates and times too, in the server's own writing. */
  TEXT,
  /** Bytes. */
  BINARY,
  /** Whole numbers, signed or not, of up to 64 bits. */
  WHOLE,
  /** Decimals of a fixed scale. */
  DECIMAL,
  /** Floating-point numbers. */
  FLOATING,
  /** Whatever each row holds: the server does not hold the column to one kind. */
  ANY
}
