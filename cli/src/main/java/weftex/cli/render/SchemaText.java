package weftex.cli.render;

import weftex.cli.page.Page;
import weftex.cli.page.Visible;
import weftex.core.change.SchemaChange;

/** Prints new tables and columns. */
final class SchemaText {
  private static final int STATEMENT_WIDTH = 90;

  private SchemaText() {}

  /** What is made, in a line. */
  static String title(Page page, SchemaChange change) {
    String words = change.item().kind() + " " + change.item().name();
    String statement = String.join("; ", change.words());
    return "new "
        + page.strong(words)
        + "   "
        + page.faint(Page.shortened(statement, STATEMENT_WIDTH));
  }

  /** Every column, key and index that is made. */
  static void statements(Page page, SchemaChange change) {
    change.words().forEach(line -> page.line("      " + Visible.text(line)));
  }
}
