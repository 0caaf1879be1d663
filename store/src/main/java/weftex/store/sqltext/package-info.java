/**
 * Plain SQL as a text: {@link weftex.store.sqltext.SqlStatements} takes a stream of it apart,
 * {@link weftex.store.sqltext.SqlOut} writes it.
 */
package weftex.store.sqltext;
