/**
 * Styled lines for the full-screen review: a {@link weftex.cli.paint.Line} of spans, wrapped and
 * painted.
 */
package weftex.cli.paint;
