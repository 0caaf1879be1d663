/**
 * What is to be changed, in stages: {@link weftex.core.change.Outline}, {@link
 * weftex.core.change.RowChange}, {@link weftex.core.change.DecidedChange}; what people say of it
 * ({@link weftex.core.signoff.Decision}), and what that makes of it ({@link
 * weftex.core.change.Review}). No file and no format is known here.
 */
package weftex.core.change;
