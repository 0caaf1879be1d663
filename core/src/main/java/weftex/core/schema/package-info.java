/**
 * New tables and columns as data: {@link weftex.core.schema.TableShape} and {@link
 * weftex.core.schema.ColumnShape} hold names, types, keys and literals, each checked when it is
 * built. There is no SQL here, and no text of a file ever becomes a statement: a database's own
 * room makes that from the data.
 */
package weftex.core.schema;
