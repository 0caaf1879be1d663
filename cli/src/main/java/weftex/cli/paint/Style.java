package weftex.cli.paint;

/** How a stretch of text looks; never by colour alone. */
public enum Style {
  PLAIN,
  /** What leads. */
  STRONG,
  /** What stands back. */
  FAINT,
  /** What asks for a decision. */
  ALERT,
  /** Words that only the old side has. */
  OLD,
  /** Words that only the new side has. */
  NEW
}
