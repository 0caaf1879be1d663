/**
 * Which changes somebody wants: {@link weftex.core.select.Selection}, by tables, rows, things and
 * members of values.
 */
package weftex.core.select;
