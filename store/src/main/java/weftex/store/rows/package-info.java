/**
 * Rows read from a copy and written to it: {@link weftex.store.rows.Snapshot} reads, {@link
 * weftex.store.rows.WriteTransaction} writes, {@link weftex.store.rows.RowDigest} says by a few
 * bytes what is alike.
 */
package weftex.store.rows;
