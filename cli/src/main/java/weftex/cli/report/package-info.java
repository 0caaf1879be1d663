/**
 * A change set as a document for people without a terminal. {@link weftex.cli.report.ReportBuilder}
 * gathers what is in it, in the words of a reader; {@link weftex.cli.report.HtmlReport}, {@link
 * weftex.cli.report.MarkdownReport} and {@link weftex.cli.report.CsvReport} write it down. What
 * comes from a site is content here, never markup.
 */
package weftex.cli.report;
