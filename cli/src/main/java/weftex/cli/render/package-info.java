/**
 * How results look as text: {@link weftex.cli.page.Page} writes lines, tables and styles to the
 * terminal's width.
 */
package weftex.cli.render;
