/**
 * A database as it is described: where it is ({@link weftex.store.database.CopySpec}), what is in
 * it ({@link weftex.store.database.Catalog}), how rows of a table are laid out ({@link
 * weftex.store.database.Layout}). Whatever differs between kinds of databases is asked of {@link
 * weftex.store.database.Dialect}, and lives in a room of its own.
 */
package weftex.store.database;
