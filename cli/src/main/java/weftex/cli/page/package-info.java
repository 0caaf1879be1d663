/**
 * Text for people: a {@link weftex.cli.page.Page} of lines and tables as wide as the terminal, and
 * how times, sizes, values and differences are put into words.
 */
package weftex.cli.page;
