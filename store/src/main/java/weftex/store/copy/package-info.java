/**
 * A copy of a site behind JDBC. {@link weftex.store.database.CopySpec} says where it is, {@link
 * weftex.store.copy.Copy} is the door to it, {@link weftex.store.database.Catalog} what is in it,
 * {@link weftex.store.rows.Snapshot} reads it, {@link weftex.store.rows.WriteTransaction} writes
 * it. {@link weftex.store.copy.Pairing} lays the tables of two copies side by side. Whatever
 * differs between kinds of databases is asked of {@link weftex.store.database.Dialect}, and lives
 * in a room of its own.
 */
package weftex.store.copy;
