/**
 * A copy of a site behind JDBC. {@link weftex.store.copy.CopySpec} says where it is, {@link
 * weftex.store.copy.Copy} is the open connection, {@link weftex.store.copy.Catalog} what is in it,
 * {@link weftex.store.copy.Snapshot} reads it. One class per database: {@code MariaDbDialect},
 * {@code SqliteDialect}. {@link weftex.store.copy.Pairing} lays the tables of two copies side by
 * side.
 */
package weftex.store.copy;
