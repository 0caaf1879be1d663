package weftex.cli.render;

import weftex.core.changeset.SchemaChange;

/** Prints new tables and columns. */
final class SchemaText {
  private static final int STATEMENT_WIDTH = 90;

  private SchemaText() {}

  /** What is made, in a line. */
  static String title(Page page, SchemaChange change) {
    String words = change.item().kind() + " " + change.item().name();
    String statement = change.statements().get(0).replaceAll("\\s+", " ");
    return "new "
        + page.strong(words)
        + "   "
        + page.faint(Page.shortened(statement, STATEMENT_WIDTH));
  }

  /** Every statement as it will be sent. */
  static void statements(Page page, SchemaChange change) {
    for (String statement : change.statements()) {
      statement.lines().forEach(line -> page.line("      " + line));
    }
  }
}
