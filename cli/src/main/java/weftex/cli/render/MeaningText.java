package weftex.cli.render;

import weftex.cli.page.Page;
import weftex.cli.result.ModelReport;

/** Prints what a site model says. */
public final class MeaningText {
  private MeaningText() {}

  public static void print(Page page, ModelReport report) {
    page.line(
        "Model "
            + page.strong(report.model())
            + (report.parent().isEmpty() ? "" : ", which extends " + report.parent()));
    for (ModelReport.TableMeaning table : report.tables()) {
      page.line(page.strong(table.name()) + ": " + table.role() + page.faint(" · " + table.from()));
      for (ModelReport.Fact fact : table.facts()) {
        page.line("  " + fact.what() + page.faint(" · " + fact.from()));
      }
    }
    if (report.tables().stream().anyMatch(table -> table.from().equals("schema"))) {
      page.line(
          page.faint("Next: weftex model --guess proposes rules for tables that no model names"));
    }
  }
}
