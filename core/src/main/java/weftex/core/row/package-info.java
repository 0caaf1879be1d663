/**
 * Rows, their values and the shape of the tables they come from. Start at {@link
 * weftex.core.row.Row} and {@link weftex.core.row.Value}; {@link weftex.core.row.Table} says what
 * the columns are.
 *
 * <p>Nothing here is null: SQL NULL is {@link weftex.core.row.Value.Null}, a row that a side does
 * not have is {@link weftex.core.row.Row#ABSENT}.
 */
package weftex.core.row;
